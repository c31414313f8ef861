package belongings

import (
	"errors"
	"slices"
	"strings"

	"hobrak/internal/core/floor"
	"hobrak/internal/core/kinds"
	"hobrak/internal/core/length"
	"hobrak/internal/core/line"
	"hobrak/internal/core/note"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/weight"
)

// AddStation makes a station of a line such as "table saw 800x750x860 wheels wall B" and puts it where it is said, or
// where it stands best. Blocked is what is in its way where it is said exactly.
func AddStation(s *shop.Shop, text string) (id string, blocked *floor.Blocked, err error) {
	r := note.Station(s, text)
	if r.Station == nil {
		return "", nil, &FieldError{"", "line", r.Wrong().Says}
	}
	return putStation(s, *r.Station, r.Where)
}

// NewStation puts a station of that name where it stands best, as large as such a station usually is, until
// somebody says where it really stands and how large it is. It gives the station's id.
func NewStation(s *shop.Shop, name string) (string, error) {
	name = strings.TrimSpace(strings.TrimPrefix(strings.TrimSpace(name), "@"))
	if name == "" {
		return "", &FieldError{"", "name", "a station needs a name"}
	}
	st := shop.Station{Name: line.Title(strings.ReplaceAll(name, "-", " ")), Kind: shop.StationKindOf(name)}
	size := st.Kind.Usual()
	if st.Kind == "" {
		st.Kind, size = shop.StationKind(strings.Join(kinds.Words(name), "-")), shop.Bench.Usual()
	}
	st.W, st.D, st.H, st.Tall, st.Feed = size.W, size.D, size.H, st.Kind.Tall(), st.Kind.Feed()
	st.Assumed = []string{"w", "d", "h"}
	if st.Tall > 0 {
		st.Assumed = append(st.Assumed, "tall")
	}
	s.Assume(&st)
	id, _, err := putStation(s, st, floor.Wish{Anyhow: true})
	return id, err
}

func putStation(s *shop.Shop, st shop.Station, wish floor.Wish) (string, *floor.Blocked, error) {
	st.ID = ID(st.Name, func(id string) bool {
		return slices.ContainsFunc(s.Stations, func(st shop.Station) bool { return st.ID == id }) || slices.ContainsFunc(s.Containers, func(c shop.Container) bool { return c.ID == id })
	})
	placed, blocked, err := floor.Put(s, st, wish)
	var none *floor.NoSpot
	if errors.As(err, &none) {
		return "", nil, &FieldError{"", "name", none.Why}
	} else if err != nil {
		return "", nil, err
	}
	s.Stations = append(s.Stations, placed)
	return placed.ID, blocked, nil
}

// AsStation makes a station of a thing on the list, one of them where there are several: it stands where it does best, as large
// as it is, and is no longer something that needs a home. It gives the station's id.
func AsStation(s *shop.Shop, item string) (string, *floor.Blocked, error) {
	i := slices.IndexFunc(s.Items, func(it shop.Item) bool { return it.ID == item })
	if i < 0 {
		return "", nil, &FieldError{item, "id", "there is no item " + item}
	}
	it := &s.Items[i]
	st := shop.Station{Name: it.Name, Kind: shop.StationKindOf(it.Name), W: it.W, D: it.D, H: it.H}
	if st.Kind == "" {
		st.Kind = shop.StationKind(strings.Join(kinds.Words(it.Name), "-"))
	}
	// Of what is only assumed, a machine on the floor is better taken for a usual one of its kind.
	usual := st.Kind.Usual()
	for _, side := range []struct {
		field string
		of    *length.Length
		usual length.Length
	}{{"w", &st.W, usual.W}, {"d", &st.D, usual.D}, {"h", &st.H, usual.H}} {
		if slices.Contains(it.Assumed, side.field) {
			st.Assumed = append(st.Assumed, side.field)
			if side.usual > 0 {
				*side.of = side.usual
			}
		}
	}
	if !slices.Contains(it.Assumed, "kg") {
		st.KG = it.KG
	}
	s.Assume(&st)
	st.Feed = st.Kind.Feed()
	if tall := st.Kind.Tall(); tall > st.H {
		st.Tall, st.Assumed = tall, append(st.Assumed, "tall")
	}
	id, blocked, err := putStation(s, st, floor.Wish{Anyhow: true})
	if err != nil {
		return "", nil, err
	}
	if n := it.Number(); n > 1 {
		it.Count = n - 1
		if it.Count == 1 {
			it.Count = 0
		}
		s.Homes = slices.DeleteFunc(s.Homes, func(h shop.Home) bool { return h.Item == item })
		return id, blocked, nil
	}
	return id, blocked, Remove(s, []string{item})
}

// AsThing makes a thing on the list of a station, which leaves the floor: it wants a home, standing. What was used there is used
// at another station. It gives the thing's id.
func AsThing(s *shop.Shop, station, instead string) (string, error) {
	i := slices.IndexFunc(s.Stations, func(st shop.Station) bool { return st.ID == station })
	if i < 0 {
		return "", &FieldError{station, "id", "there is no station " + station}
	}
	st := s.Stations[i]
	if err := floor.Remove(s, station, instead); err != nil {
		return "", err
	}
	it := shop.Item{Name: st.Name, W: st.W, H: max(st.H, st.Tall), D: st.D, Hold: []shop.Hold{shop.Stand}, UsesPerWeek: .25, Assumed: []string{"kg", "uses_per_week"}}
	if k, ok := kinds.Sure(st.Name); ok {
		it.Kind, it.KG, it.UsesPerWeek = k.Kind.ID, weight.KG(k.Kind.KG), k.Kind.Uses
	}
	if st.KG > 0 && !slices.Contains(st.Assumed, "kg") {
		it.KG, it.Assumed = st.KG, []string{"uses_per_week"}
	}
	for _, f := range st.Assumed {
		if f == "w" || f == "d" || f == "h" {
			it.Assumed = append(it.Assumed, f)
		}
	}
	it.ID = ID(it.Name, func(id string) bool {
		return slices.ContainsFunc(s.Items, func(it shop.Item) bool { return it.ID == id })
	})
	s.Items = append(s.Items, it)
	return it.ID, nil
}
