package belongings

import (
	"errors"
	"slices"
	"strings"

	"hobrak/internal/core/floor"
	"hobrak/internal/core/kinds"
	"hobrak/internal/core/line"
	"hobrak/internal/core/note"
	"hobrak/internal/core/shop"
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
