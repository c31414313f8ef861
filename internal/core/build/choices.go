package build

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"hobrak/internal/core/load"
	"hobrak/internal/core/shop"
)

// Ways to join, to close, to slide and to stand.
const (
	Screwed = "screws"
	Rebated = "rebates"
	Dadoed  = "dadoes"

	NoBack  = "none"
	OnBack  = "on"
	InBack  = "rebated"
	Bare    = "none"
	Side    = "side"
	Under   = "undermount"
	Overlay = "overlay"
	Inset   = "inset"
)

// Choices of how a unit is made. What is left out is what suits the shop.
type Choices struct {
	Sheet  string  `json:"sheet,omitempty" doc:"kind of sheet, as in stock"`
	T      float64 `json:"t,omitempty" minimum:"0" maximum:"60" doc:"thickness of the parts that carry, mm"`
	Thin   float64 `json:"thin,omitempty" minimum:"0" maximum:"20" doc:"thickness of backs and drawer bottoms, mm"`
	Joint  string  `json:"joint,omitempty" enum:"screws,rebates,dadoes," doc:"how parts are joined"`
	Back   string  `json:"back,omitempty" enum:"none,on,rebated,"`
	Runner string  `json:"runner,omitempty" enum:"none,side,undermount," doc:"what drawers run on"`
	Front  string  `json:"front,omitempty" enum:"overlay,inset," doc:"doors and drawer fronts before the case or in it"`
	Bevel  float64 `json:"bevel,omitempty" enum:"0,30,45" doc:"degrees at which cleats are sawn"`
	Strip  string  `json:"strip,omitempty" enum:"where-it-sags,always,never," doc:"a strip along the edge of shelves"`
	Scrap  bool    `json:"scrap,omitempty" doc:"from what lies there: any wood that is thick enough, butt joints, no backs"`
}

// Chosen is what was chosen, filled up with what suits the tools of a shop, and why.
func Chosen(s *shop.Shop, c Choices) (Choices, []string, error) {
	var why []string
	owns := func(words ...string) string {
		for i := range s.Stations {
			for _, w := range words {
				if strings.Contains(strings.ToLower(s.Stations[i].Name+" "+string(s.Stations[i].Kind)), w) {
					return s.Stations[i].Name
				}
			}
		}
		for i := range s.Items {
			for _, w := range words {
				if strings.Contains(strings.ToLower(s.Items[i].Name+" "+s.Items[i].Kind), w) {
					return s.Items[i].Name
				}
			}
		}
		return ""
	}
	if c.Scrap {
		if c.Joint == "" {
			c.Joint = Screwed
		}
		if c.Back == "" {
			c.Back = NoBack
		}
		if c.Runner == "" {
			c.Runner = Bare
		}
	}
	if c.T == 0 {
		c.T = 18
	}
	if c.Thin == 0 {
		c.Thin = 6
	}
	if c.Sheet == "" {
		c.Sheet = "plywood"
		for i := range s.Items { // what there is of that thickness
			it := &s.Items[i]
			if it.Wood == nil || it.Wood.Form != "sheet" || it.Wood.Of == "" {
				continue
			}
			if math.Abs(min(it.W, it.H, it.D).MM()-c.T) < .6 {
				c.Sheet = it.Wood.Of
				why = append(why, fmt.Sprintf("%s is there as thick as is wanted", it.Name))
				break
			}
		}
	}
	if _, err := load.WoodByID(c.Sheet); err != nil {
		return c, nil, fmt.Errorf("sheet: %w", err)
	}
	if c.Joint == "" {
		router, saw := owns("router"), owns("table saw", "table-saw", "dado", "track saw")
		switch {
		case router != "":
			c.Joint = Dadoed
			why = append(why, router+" cuts dadoes: shelves sit in them and cannot slip")
		case saw != "":
			c.Joint = Rebated
			why = append(why, saw+" cuts rebates: the corners are held square")
		default:
			c.Joint = Screwed
			why = append(why, "butt joints with screws: nothing is there that cuts dadoes")
		}
	}
	if c.Back == "" {
		c.Back = OnBack
		if c.Joint != Screwed {
			c.Back = InBack
		}
	}
	if c.Runner == "" {
		c.Runner = Side
	}
	if c.Front == "" {
		c.Front = Overlay
	}
	if c.Bevel == 0 {
		c.Bevel = 45
		if owns("table saw", "table-saw", "circular", "track saw", "bandsaw", "band saw", "jigsaw") == "" {
			why = append(why, "nothing is there that saws cleats at an angle: buy them, or plane the bevel")
		}
	}
	if c.Strip == "" {
		c.Strip = "where-it-sags"
	}
	for _, x := range []struct {
		name, is string
		may      []string
	}{
		{"joint", c.Joint, []string{Screwed, Rebated, Dadoed}}, {"back", c.Back, []string{NoBack, OnBack, InBack}}, {"runner", c.Runner, []string{Bare, Side, Under}},
		{"front", c.Front, []string{Overlay, Inset}}, {"strip", c.Strip, []string{"where-it-sags", "always", "never"}},
	} {
		if !slices.Contains(x.may, x.is) {
			return c, nil, fmt.Errorf("%s: %q; it is one of %s", x.name, x.is, strings.Join(x.may, ", "))
		}
	}
	switch {
	case c.T < 6 || c.T > 60 || math.IsNaN(c.T):
		return c, nil, fmt.Errorf("thickness: %g mm; from 6 to 60", c.T)
	case c.Thin < 3 || c.Thin > c.T:
		return c, nil, fmt.Errorf("thickness of the backs: %g mm; from 3 to the %g of the rest", c.Thin, c.T)
	case c.Bevel != 30 && c.Bevel != 45:
		return c, nil, fmt.Errorf("bevel of cleats: %g°; 30 or 45", c.Bevel)
	}
	return c, why, nil
}
