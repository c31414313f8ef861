package table

import (
	"fmt"
	"slices"
	"strings"

	"hobrak/internal/core/belongings"
	"hobrak/internal/core/fit"
	"hobrak/internal/core/shop"
)

// Apply puts the good rows of a reading into the shop it was read for. Where a
// row names a place without a spot, a free one is looked for; what found none is
// said, and lies there.
func Apply(s *shop.Shop, reading *Reading) (notes []string, err error) {
	moved := map[string]bool{}
	var homes, wishes []shop.Home
	for i := range reading.Rows {
		row := &reading.Rows[i]
		switch row.Does {
		case "new":
			s.Items = append(s.Items, row.item)
		case "change":
			s.Items[row.index] = row.item
		default:
			continue
		}
		if row.index >= 0 && !row.moved {
			continue
		}
		moved[row.item.ID] = true
		for _, h := range row.homes {
			wish := h.Item == "?"
			h.Item = row.item.ID
			if wish {
				wishes = append(wishes, h)
			} else {
				homes = append(homes, h)
			}
		}
	}
	called := map[string]string{}
	for i := range s.Items {
		called[strings.ToLower(s.Items[i].Name)] = s.Items[i].ID
	}
	for i := range reading.Rows {
		if k := slices.IndexFunc(s.Items, func(it shop.Item) bool { return it.ID == reading.Rows[i].item.ID }); k >= 0 {
			for j, w := range s.Items[k].With {
				if id, ok := called[strings.ToLower(w)]; ok && !slices.ContainsFunc(s.Items, func(it shop.Item) bool { return it.ID == w }) {
					s.Items[k].With[j] = id
				}
			}
		}
	}
	kept := s.Homes[:0:0]
	for _, h := range s.Homes {
		if !moved[h.Item] {
			kept = append(kept, h)
		}
	}
	s.Homes = append(kept, homes...)
	lying, err := fit.Settle(s, wishes)
	if err != nil {
		return nil, err
	}
	ix := shop.NewIndex(s)
	for _, h := range wishes {
		if why, no := lying[h.Item]; no {
			notes = append(notes, fmt.Sprintf("%s lies in %s without a spot of its own: %s", ix.Item(h.Item).Name, h.Place, why))
		}
	}
	return notes, nil
}

// ReadMaking reads like Read, after the stations that the table names and the
// shop lacks have been made in it. It gives their names.
func ReadMaking(s *shop.Shop, rows [][]string, m Mapping, progress func(done, total int) error) (reading *Reading, made []string, err error) {
	reading, err = Read(s, rows, m, progress)
	if err != nil || len(reading.Stations) == 0 {
		return reading, nil, err
	}
	made = reading.Stations
	for _, name := range made {
		if _, err := belongings.NewStation(s, name); err != nil {
			return nil, nil, err
		}
	}
	reading, err = Read(s, rows, m, progress)
	return reading, made, err
}
