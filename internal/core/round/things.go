package round

import (
	"sort"

	"hobrak/internal/core/geometry"
	"hobrak/internal/core/shop"
)

func traits(c *shop.Container) []string {
	out := []string{}
	for _, t := range []struct {
		name string
		has  bool
	}{{"dust_tight", c.DustTight}, {"lockable", c.Lockable}, {"portable", c.Portable}} {
		if t.has {
			out = append(out, t.name)
		}
	}
	return out
}

func (d *artist) things() {
	d.r.Things = []Thing{}
	for i := range d.s.Stations {
		st := &d.s.Stations[i]
		at, out := d.put(st.Area, st.Footprint(), st.W.MM())
		d.hosts[st.ID] = at
		if st.Wished != "" {
			continue // it is not there yet
		}
		d.r.Things = append(d.r.Things, Thing{st.ID, st.Name, string(st.Kind), true, at.elevation, at.x, 0, st.W.MM(), st.H.MM(), max(st.H, st.Tall).MM(), out, st.Mobility.Aside(), nil, 0, []string{}})
	}
	for i := range d.s.Containers {
		c := &d.s.Containers[i]
		t := Thing{ID: c.ID, Name: c.Name, Kind: string(c.Kind), W: c.W.MM(), H: c.H.MM(), Tall: c.H.MM(), Movable: c.Kind.Rolls(), Traits: traits(c)}
		var at onWall
		switch {
		case c.At.Wall != "":
			at = onWall{d.elevationOf(c.At.Area, c.At.Wall), c.At.X.MM(), c.At.Z.MM()}
		case c.At.Floor != nil:
			t.Floor, t.Rot = &[2]float64{c.At.Floor[0].MM(), c.At.Floor[1].MM()}, c.At.Rot
			at, t.Out = d.put(c.At.Area, geometry.Rectangle(c.At.Floor[0].MM(), c.At.Floor[1].MM(), c.W.MM(), c.D.MM(), c.At.Rot), c.W.MM())
		case c.At.Ceiling != nil:
			at = d.inMiddle(d.m.Index.Area(c.At.Area).ID, c.W.MM())
			at.z = c.At.Z.MM()
		default:
			continue // away, or inside another container: drawn there
		}
		t.Elevation, t.X, t.Z = at.elevation, at.x, at.z
		d.hosts[c.ID] = at
		d.r.Things = append(d.r.Things, t)
	}
	for i := range d.s.Containers {
		// Boxes on places: on a deck, a shelf, a rail.
		c := &d.s.Containers[i]
		if on := d.m.Index.Place(c.At.In); on != nil {
			at := d.find(on)
			at.x, at.z = at.x+c.At.X.MM(), at.z+c.At.Z.MM()
			d.hosts[c.ID] = at
			d.r.Things = append(d.r.Things, Thing{ID: c.ID, Name: c.Name, Kind: string(c.Kind), W: c.W.MM(), H: c.H.MM(), Tall: c.H.MM(), Traits: traits(c), Elevation: at.elevation, X: at.x, Z: at.z})
		}
	}
	// What stands further out is drawn over what is behind it.
	sort.SliceStable(d.r.Things, func(i, j int) bool { return d.r.Things[i].Out < d.r.Things[j].Out })
}
