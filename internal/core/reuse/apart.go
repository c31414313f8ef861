package reuse

import (
	"fmt"

	"hobrak/internal/core/build"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/storage"
	"hobrak/internal/core/wood"
)

// Yield is what taking a piece of storage apart gives.
type Yield struct {
	Pieces   []wood.Reading `json:"pieces" nullable:"false" doc:"for stock, as large as they are once the ends with their screw holes are off"`
	Small    int            `json:"small" doc:"pieces that are smaller than the shop keeps"`
	M3       float64        `json:"m3" doc:"of the pieces for stock"`
	Fittings []string       `json:"fittings" nullable:"false" doc:"what can be used again"`
	Homeless []string       `json:"homeless" nullable:"false" doc:"names of what lives there and needs another home first"`
	Says     []string       `json:"says" nullable:"false"`
}

// ends are cut off each end of a part that was joined there (an estimate), mm; narrow is what is too narrow to keep.
const (
	ends   = 15.0
	narrow = 40.0
)

// Apart says what a place or container gives, as it would be made with these choices: its parts are not measured.
func Apart(s *shop.Shop, id string, c build.Choices) (*Yield, error) {
	u, err := build.Of(s, id, c)
	if err != nil {
		return nil, err
	}
	out := &Yield{Pieces: []wood.Reading{}, Fittings: []string{}, Homeless: []string{}, Says: []string{"sizes are those it would be made with: measure what you take apart", "look for screws and nails with a detector before a part meets a blade"}}
	useful := s.Settings.UsefulLength().MM()
	for _, l := range u.CutList() {
		long, wide := l.L-2*ends, l.W
		if l.AnyWay && wide > long {
			long, wide = wide, long
		}
		if long < useful || wide < narrow {
			out.Small += l.Count
			continue
		}
		form := wood.Board
		if l.T <= 25 && wide >= 200 {
			form = wood.Sheet
		}
		out.Pieces = append(out.Pieces, wood.Reading{Count: l.Count, Of: l.Material, Called: wood.Called(l.Material), Form: form, L: long, W: wide, T: l.T, About: true, Says: []string{}})
		out.M3 += float64(l.Count) * long * wide * l.T / 1e9
	}
	for _, f := range u.Fittings {
		if f.Count > 0 {
			out.Fittings = append(out.Fittings, fmt.Sprintf("%d × %s", f.Count, f.Name))
		}
	}
	then := s.Clone()
	homeless, err := storage.Remove(then, id)
	if err != nil {
		return nil, err
	}
	ix := shop.NewIndex(s)
	for _, item := range homeless {
		out.Homeless = append(out.Homeless, ix.Name(item))
	}
	return out, nil
}

// TakeApart takes it out of the shop and its pieces into stock, where a rack has room for them; what lived there has no home then.
func TakeApart(s *shop.Shop, id string, c build.Choices, st *wood.Stock, today string) (*wood.Delivery, *shop.Shop, error) {
	y, err := Apart(s, id, c)
	if err != nil {
		return nil, nil, err
	}
	name := shop.NewIndex(s).Name(id)
	then := s.Clone()
	if _, err := storage.Remove(then, id); err != nil {
		return nil, nil, err
	}
	before := len(then.Items)
	d, then, err := wood.Deliver(then, st, y.Pieces, today)
	if err != nil {
		return nil, nil, err
	}
	for i := range then.Items[before:] {
		if w := then.Items[before+i].Wood; w != nil {
			w.Salvaged, w.Source = true, "from "+name
		}
	}
	return d, then, nil
}
