package moves

import (
	"fmt"
	"reflect"
	"slices"

	"hobrak/internal/core/fit"
	"hobrak/internal/core/shop"
)

// Toward is a shop as a target has it, and what of the target there is no more, in words. What the target does not know, as things
// that came since or for which it found no home, stays where it is as long as there is room beside what the target puts there. The error says why the shop cannot be like that any more.
func Toward(now *shop.Shop, t *shop.Target) (*shop.Shop, []string, error) {
	was := *now
	if t.Storage {
		was.Places, was.Containers = t.Places, t.Containers
	}
	out := was.Clone()
	gone := []string{}
	for _, x := range t.Stations {
		k := slices.IndexFunc(out.Stations, func(st shop.Station) bool { return st.ID == x.ID })
		if k < 0 {
			gone = append(gone, fmt.Sprintf("%s is not there any more and is not shifted", x.ID))
			continue
		}
		st := &out.Stations[k]
		st.X, st.Y, st.Rot, st.Stand = x.X, x.Y, x.Rot, x.Stand
	}
	ix := shop.NewIndex(out)
	known := map[string]bool{}
	left := map[string]bool{}
	for _, l := range t.Left {
		left[l.Item] = true
	}
	homes := []shop.Home{}
	for _, h := range t.Homes {
		it := ix.Item(h.Item)
		switch {
		case it == nil:
			if !known[h.Item] {
				gone = append(gone, fmt.Sprintf("%s is gone and is not moved", h.Item))
			}
			known[h.Item] = true
			continue
		case left[h.Item]:
			continue
		case ix.Place(h.Place) == nil:
			gone = append(gone, fmt.Sprintf("%s has no home any more: %s is gone. Look for homes again", it.Name, h.Place))
			continue
		}
		known[h.Item] = true
		homes = append(homes, h)
	}
	out.Homes = homes
	var stay []shop.Home
	for _, h := range now.Homes {
		if !known[h.Item] && ix.Place(h.Place) != nil {
			stay = append(stay, h)
		}
	}
	// Of fewer pieces than there were the target has too many homes.
	for i := range out.Items {
		it := &out.Items[i]
		rest := it.Number()
		out.Homes = slices.DeleteFunc(out.Homes, func(h shop.Home) bool {
			if h.Item != it.ID {
				return false
			}
			rest -= h.Number(it)
			return rest < 0
		})
	}
	for i := range out.Modes {
		for id := range out.Modes[i].Spots {
			if ix.Station(id) == nil && ix.Container(id) == nil {
				delete(out.Modes[i].Spots, id)
			}
		}
	}
	for i := range out.Items {
		if it := &out.Items[i]; it.Lies != "" && ix.Place(it.Lies) == nil {
			it.Lies = ""
		}
	}
	crowded, err := beside(out, stay)
	if err != nil {
		return nil, gone, err
	}
	gone = append(gone, crowded...)
	out.Settings.Target, out.Targets = "", nil
	if err := out.Validate(); err != nil {
		return nil, gone, fmt.Errorf("the shop is not any more as it was when this was planned (%w): look for homes again, or let this plan go", err)
	}
	return out, gone, nil
}

// beside adds homes to a shop that there is room for beside what lies there; and says of the others that there is none.
func beside(s *shop.Shop, homes []shop.Home) (crowded []string, err error) {
	if len(homes) == 0 {
		return nil, nil
	}
	hands, err := fit.NewHands(s)
	if err != nil {
		return nil, err
	}
	ix := shop.NewIndex(s)
	number := map[string]int{}
	for i := range s.Items {
		number[s.Items[i].ID] = i
	}
	for _, h := range homes {
		it := ix.Item(h.Item)
		if it == nil || !it.Needs() {
			s.Homes = append(s.Homes, h)
			continue
		}
		if err := hands.Lay(hands.Pick(number[it.ID], h.Number(it)), &h); err != nil {
			crowded = append(crowded, fmt.Sprintf("%s finds no room in %s beside what the plan puts there, and is left without a home: %v", it.Name, h.Place, err))
			continue
		}
		s.Homes = append(s.Homes, h)
	}
	return crowded, nil
}

// Aim is a target of how a shop would be.
func Aim(now, then *shop.Shop, name string) shop.Target {
	t := shop.Target{Name: name, Homes: slices.Clone(then.Homes)}
	for i := range then.Stations {
		st := &then.Stations[i]
		for k := range now.Stations {
			if o := &now.Stations[k]; o.ID == st.ID && (o.X != st.X || o.Y != st.Y || o.Rot != st.Rot) {
				t.Stations = append(t.Stations, shop.StationTarget{ID: st.ID, X: st.X, Y: st.Y, Rot: st.Rot, Stand: st.Stand})
			}
		}
	}
	if !reflect.DeepEqual(now.Places, then.Places) || !reflect.DeepEqual(now.Containers, then.Containers) {
		t.Storage, t.Places, t.Containers = true, slices.Clone(then.Places), slices.Clone(then.Containers)
	}
	return t
}
