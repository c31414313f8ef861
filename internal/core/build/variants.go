package build

import "hobrak/internal/core/shop"

// Variant is a unit made otherwise: with less work, or with what lies there.
type Variant struct {
	Name    string  `json:"name" enum:"chosen,plain,scrap" doc:"as it is chosen; butt joints, no back, drawers on wood; from what lies there first"`
	Choices Choices `json:"choices"`
	Hours   float64 `json:"hours"`
	Sheet   float64 `json:"sheet" doc:"m²"`
	Solid   float64 `json:"solid" doc:"m"`
	KG      float64 `json:"kg"`
	Bought  int     `json:"bought" doc:"fittings that are bought"`
	Short   string  `json:"short" doc:"what would not go in so; empty when everything does"`
}

// Variants of a unit beside how it is chosen, as far as they come to anything else.
func Variants(s *shop.Shop, id string, c Choices) ([]Variant, error) {
	plain, scrap := c, c
	plain.Joint, plain.Back, plain.Runner, plain.Strip = Screwed, NoBack, Bare, "never"
	scrap.Scrap = true
	out := []Variant{}
	for _, v := range []struct {
		name string
		c    Choices
	}{{"chosen", c}, {"plain", plain}, {"scrap", scrap}} {
		u, err := Of(s, id, v.c)
		if err != nil {
			if v.name == "chosen" {
				return nil, err
			}
			continue // it cannot be made so
		}
		x := Variant{Name: v.name, Choices: v.c, Hours: u.Hours, Sheet: u.Sheet, Solid: u.Solid, KG: u.KG}
		for _, f := range u.Fittings {
			x.Bought += f.Count
		}
		for _, p := range u.Inside {
			if p.Short != "" && x.Short == "" {
				x.Short = p.Short
			}
		}
		if len(out) > 0 && x.Hours == out[0].Hours && x.Sheet == out[0].Sheet && x.Bought == out[0].Bought && x.Solid == out[0].Solid {
			continue
		}
		out = append(out, x)
	}
	return out, nil
}
