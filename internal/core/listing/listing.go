// Package listing puts typed lines on the list of belongings, each thing where the line says it lives. A line that says
// only where holds for those after it, until another one does.
package listing

import (
	"fmt"

	"hobrak/internal/core/belongings"
	"hobrak/internal/core/fit"
	"hobrak/internal/core/line"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/storage"
)

// Added is what became of lines.
type Added struct {
	IDs   []string // of the things, in order
	Notes []string // what could not be done as it was said
	Here  string   // where the last line that says only where leaves one; empty nowhere
}

// Add puts lines on the list. A line no thing can be made of is an error that names the line.
func Add(s *shop.Shop, lines []string) (out Added, err error) {
	var lives []shop.Home
	c := belongings.Context(s)
	for i, text := range lines {
		read := line.Parse(text, c)
		place := read.Place
		if read.Floor != "" && (read.Here || read.Why == "") {
			if place, err = storage.FloorAt(s, read.Floor); err != nil {
				return Added{}, fmt.Errorf("line %d: %w", i+1, err)
			}
			c = belongings.Context(s)
		}
		if read.Here {
			out.Here = place
			continue
		}
		id, err := belongings.Add(s, read)
		if err != nil {
			return Added{}, fmt.Errorf("line %d: %w", i+1, err)
		}
		out.IDs = append(out.IDs, id)
		if place == "" {
			place = out.Here
		}
		if place != "" {
			lives = append(lives, shop.Home{Item: id, Place: place})
		}
	}
	lying, err := fit.Settle(s, lives)
	if err != nil {
		return Added{}, err
	}
	out.Notes = notes(s, lives, lying)
	return out, nil
}

// notes say what lies without a spot of its own.
func notes(s *shop.Shop, lives []shop.Home, lying map[string]string) (out []string) {
	ix := shop.NewIndex(s)
	for _, h := range lives {
		if why, loose := lying[h.Item]; loose {
			out = append(out, fmt.Sprintf("%s lies in %s without a spot of its own: %s", ix.Item(h.Item).Name, h.Place, why))
		}
	}
	return out
}
