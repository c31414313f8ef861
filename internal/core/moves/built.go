package moves

import (
	"slices"

	"hobrak/internal/core/length"
	"hobrak/internal/core/shop"
)

// Built is a shop after a step that built, shifted or took down what it names; homes stay.
func Built(s, target *shop.Shop, m *Step) *shop.Shop {
	out := s.Clone()
	if m.Do == Clear {
		within := map[string]bool{m.What: true}
		for again := true; again; { // containers in it
			again = false
			for i := range out.Containers {
				if c := &out.Containers[i]; within[c.At.In] && !within[c.ID] {
					within[c.ID], again = true, true
				}
			}
		}
		out.Places = slices.DeleteFunc(out.Places, func(p shop.Place) bool { return within[p.ID] || within[p.At.In] })
		out.Containers = slices.DeleteFunc(out.Containers, func(c shop.Container) bool { return within[c.ID] })
		for i := range out.Modes {
			delete(out.Modes[i].Spots, m.What)
		}
		return out
	}
	if m.Temporary {
		if at := m.Spot; at != nil {
			for k := range out.Stations {
				if st := &out.Stations[k]; st.ID == m.What {
					st.X, st.Y, st.Rot, st.Stand = length.MM(at.X), length.MM(at.Y), at.Rot, shop.Point{length.MM(at.Stand[0]), length.MM(at.Stand[1])}
				}
			}
		}
		return out
	}
	for i := range target.Stations {
		if st := target.Stations[i]; st.ID == m.What {
			for k := range out.Stations {
				if out.Stations[k].ID == st.ID {
					out.Stations[k].X, out.Stations[k].Y, out.Stations[k].Rot, out.Stations[k].Stand = st.X, st.Y, st.Rot, st.Stand
				}
			}
			return out
		}
	}
	// The storage itself, and of what is new all that is in it.
	ix := shop.NewIndex(target)
	of := func(id string, at *shop.At) bool {
		root, _ := rootOf(ix, id, at)
		return id == m.What || root == m.What
	}
	for i := range target.Containers {
		c := target.Containers[i]
		if !of(c.ID, &c.At) {
			continue
		}
		if k := slices.IndexFunc(out.Containers, func(x shop.Container) bool { return x.ID == c.ID }); k >= 0 {
			out.Containers[k].At = c.At
		} else {
			out.Containers = append(out.Containers, c)
		}
	}
	for i := range target.Places {
		p := target.Places[i]
		if !of(p.ID, &p.At) {
			continue
		}
		k := slices.IndexFunc(out.Places, func(x shop.Place) bool { return x.ID == p.ID })
		switch {
		case k < 0 && (m.Do == Build):
			out.Places = append(out.Places, p)
		case k >= 0 && p.ID == m.What && m.Do == Build:
			out.Places[k] = p
		case k >= 0:
			out.Places[k].At = p.At
		}
	}
	return out
}
