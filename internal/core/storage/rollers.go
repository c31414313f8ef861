package storage

import (
	"cmp"
	"slices"

	"hobrak/internal/core/keeping"
	"hobrak/internal/core/length"
	"hobrak/internal/core/pack"
	"hobrak/internal/core/shop"
)

// overRoll is what a roll needs round it to be lifted off its bar.
const overRoll = 20 * mm

// rollers makes bars for rolls: the thickest below, each bar as full as the width and
// what is kept free let it be.
func (b *builder) rollers() {
	p := shop.Place{ID: b.base, Kind: keeping.Roller}
	items := b.takers(&p, func(a, c shop.Size) int { return cmp.Or(cmp.Compare(c.H, a.H), cmp.Compare(c.W, a.W)) })
	k, share := keeping.Of(&p), 1-b.need.Reserve
	width := func(it *shop.Item) length.Length {
		n := length.Length(it.Number())
		return n*k.Size(it).W + (n-1)*it.KeptClear()
	}
	// As wide as the widest needs, or as some bars of all would be.
	widest, all := length.Length(0), length.Length(0)
	for _, it := range items {
		widest, all = max(widest, width(it)), all+width(it)+it.KeptClear()
	}
	p.W = limit(b.need.Width, 1000*mm)
	p.W = min(p.W, up(length.Length(float64(max(widest, all/3))/share), 10*mm))
	if d := limit(b.need.Depth, 400*mm); len(items) > 0 {
		p.D = min(d, k.Size(items[0]).H+overRoll)
	}
	highest := limit(b.need.Height, 1200*mm)
	var runs []run
	var spots []pack.Spot
	ends := []length.Length{} // of each bar
	used := length.Length(0)
	for _, it := range items {
		s, w := k.Size(it), width(it)
		room := s.H + overRoll
		switch {
		case s.H > p.D:
			b.leave(it, "it is %s thick, more than is allowed", s.H)
			continue
		case w > length.Length(float64(p.W)*share):
			b.leave(it, "it is %s wide with clearance, more than a bar takes", w)
			continue
		}
		at := slices.IndexFunc(ends, func(end length.Length) bool { return end+it.KeptClear()+w <= length.Length(float64(p.W)*share) })
		if at < 0 {
			if p.H+room > highest {
				b.leave(it, "all bars are full: they may be %s high together", highest)
				continue
			}
			at = len(ends)
			p.Levels = append(p.Levels, shop.Level{Z: p.H, H: room})
			p.H += room
			ends = append(ends, -it.KeptClear())
		}
		x := ends[at] + max(it.KeptClear(), gapBefore(runs, spots, at))
		x = max(x, 0)
		runs, spots = append(runs, run{it, it.Number(), x, w}), append(spots, pack.Spot{X: x, Level: at})
		ends[at] = x + w
		used += w
	}
	if len(runs) == 0 {
		return
	}
	b.settle(&p, runs, spots, float64(used), float64(p.W)*float64(len(p.Levels)))
	b.out.W, b.out.H, b.out.D = p.W, p.H, p.D
	b.rule("a bar is as high over the one below as its thickest roll and %s; rolls are beside each other with clearance", overRoll)
	b.spare("%.0f %% of the bars", 100*(1-float64(used)/(float64(p.W)*float64(len(p.Levels)))))
}

// gapBefore is the clearance the last roll on a bar wants.
func gapBefore(runs []run, spots []pack.Spot, bar int) (gap length.Length) {
	for i := range runs {
		if spots[i].Level == bar {
			gap = runs[i].it.KeptClear()
		}
	}
	return gap
}
