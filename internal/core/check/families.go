package check

import (
	"fmt"
	"slices"
)

// families that must stay together live in one case or place.
func (c *checker) families() {
	first := map[string]string{}
	for i := range c.s.Homes {
		h := &c.s.Homes[i]
		it, place := c.ix.Item(h.Item), c.ix.Place(h.Place)
		if it == nil || place == nil {
			continue // said elsewhere
		}
		name := it.Family
		if name == "" || !slices.Contains(c.s.Settings.Together, name) {
			continue
		}
		where := h.Place
		if chain, _ := c.ix.Chain(&place.At); len(chain) > 0 {
			where = chain[len(chain)-1].ID
		}
		if first[name] == "" {
			first[name] = where
		}
		if where != first[name] {
			c.add(true, "family", fmt.Sprintf("homes[%d]", i), 0, "", "%s belongs with the %s, which must stay together, and those live in %s", it.Name, name, first[name])
		}
	}
}
