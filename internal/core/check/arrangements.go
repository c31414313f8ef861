package check

import (
	"sync"

	"hobrak/internal/core/mode"
)

// arrangements adds what is to mind on the floor as it stands and in the modes: narrow ways, drawers that something stops, who
// stands in line with a blade. What is so as it stands is not said again for each mode. Broken rules of the floor this package
// finds by itself.
func (c *checker) arrangements() {
	type look struct {
		area, id, name string
		found          []mode.Breach
	}
	var looks []*look
	for i := range c.s.Areas {
		looks = append(looks, &look{area: c.s.Areas[i].ID})
		for k := range c.s.Modes {
			looks = append(looks, &look{area: c.s.Areas[i].ID, id: c.s.Modes[k].ID, name: c.s.Modes[k].Name})
		}
	}
	var wait sync.WaitGroup
	for _, x := range looks {
		wait.Go(func() { x.found, _ = mode.Breaches(c.s, x.id, x.area) })
	}
	wait.Wait()
	said := map[string]bool{}
	for _, x := range looks {
		for _, b := range x.found {
			key := x.area + " " + b.Says
			if b.Hard || b.Code == "stand" || said[key] {
				continue
			}
			said[key] = true
			where, in, do := x.area, "", ""
			if len(b.Of) > 0 {
				where = b.Of[0]
			}
			if x.id != "" {
				in = "in " + x.name + " "
			}
			if b.Do != "" {
				do = ": " + b.Do
			}
			c.add(false, b.Code, where, 0, "", "%s%s%s", in, b.Says, do)
		}
	}
}
