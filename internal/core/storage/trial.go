package storage

import (
	"slices"

	"hobrak/internal/core/access"
	"hobrak/internal/core/check"
	"hobrak/internal/core/keeping"
	"hobrak/internal/core/shop"
)

// Trial says what it would be like to have a place or container elsewhere.
type Trial struct {
	Allowed  bool     `json:"allowed" doc:"no rule is broken there that is not broken now"`
	Broken   []string `json:"broken" nullable:"false" doc:"what forbids it"`
	Cautions []string `json:"cautions" nullable:"false" doc:"cautions there that there are not now"`
	Seconds  float64  `json:"seconds" doc:"weekly handling of what lives in it, there"`
	Now      float64  `json:"now" doc:"where it is now"`
}

// Try tells what moving a place or container of a mapped shop would do; before is
// what the check finds in the shop as it is.
func Try(m *access.Map, before []check.Finding, id string, to shop.At) (*Trial, error) {
	next := m.Shop.Clone()
	if err := Move(next, id, to); err != nil {
		return nil, err
	}
	out := &Trial{Broken: []string{}, Cautions: []string{}}
	out.Now = handling(m, id)
	if err := next.Validate(); err != nil {
		out.Broken = append(out.Broken, err.Error())
		return out, nil
	}
	moved, err := access.NewMap(next)
	if err != nil {
		return nil, err
	}
	after, err := check.Mapped(moved)
	if err != nil {
		return nil, err
	}
	// Of cautions one of a kind at a spot is enough to know; a rule that is broken there
	// may be broken a second time, which is another finding.
	key := func(f check.Finding) string {
		if f.Hard {
			return f.Code + f.Where + f.What
		}
		return f.Code + f.Where
	}
	known := map[string]bool{}
	for _, f := range before {
		known[key(f)] = true
	}
	for _, f := range after {
		switch {
		case known[key(f)]:
		case f.Hard && !slices.Contains(out.Broken, f.What):
			out.Broken = append(out.Broken, f.What)
		case !f.Hard && len(out.Cautions) < 4:
			out.Cautions = append(out.Cautions, f.What)
		}
	}
	out.Seconds = handling(moved, id)
	out.Allowed = len(out.Broken) == 0
	return out, nil
}

// handling is the weekly handling of what lives in a place, or in the places of a
// container. What cannot be reached counts as without a home.
func handling(m *access.Map, id string) (total float64) {
	ix := m.Index
	for i := range m.Shop.Homes {
		h := &m.Shop.Homes[i]
		p, it := ix.Place(h.Place), ix.Item(h.Item)
		if p == nil || it == nil {
			continue
		}
		chain, _ := ix.Chain(&p.At)
		if p.ID != id && !slices.ContainsFunc(chain, func(c *shop.Container) bool { return c.ID == id }) {
			continue
		}
		u := m.UseOf(it)
		share := float64(h.Number(it)) / float64(it.Number())
		t, ok := m.Weekly(&u, m.PlaceNumber(p.ID), keeping.GripOf(p, it, h), h.Row)
		if !ok {
			t = m.Estimates.Homeless * u.Rate
		}
		total += t * share
	}
	return total
}
