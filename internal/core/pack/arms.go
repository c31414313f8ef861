package pack

import (
	"fmt"
	"slices"

	"hobrak/internal/core/length"
)

// Overhang limits of a board beyond the last arm: a quarter of its length and
// never more than 600 mm.
const (
	MaxOverhang      = 600 * length.Millimetre
	overhangQuotient = 4
)

// ArmLevel is one level of a rack: Z above its lower edge, H clear above the arms.
type ArmLevel struct{ Z, H length.Length }

// Arms is a rack seen from the end: boards lie in piles on each level. W is the
// span from the first to the last arm, D the length of the arms. A thing's W is
// the board's length, D its width and H its thickness.
type Arms struct {
	W, D   length.Length
	Levels []ArmLevel
	placed []board
}

type board struct {
	id, level  int
	y, z, w, h length.Length // out from the wall, up in the pile
	top        length.Length // width of its uppermost row, which alone bears
	takes      float64
}

// block is the cross-section of the pieces: cols beside each other, the rest on top.
func (p *Arms) block(t Thing, cols int) (w, h length.Length) {
	n := max(t.N, 1)
	if cols <= 0 || cols > n {
		cols = n
	}
	rows := (n + cols - 1) / cols
	return length.Length(cols) * t.D, length.Length(rows) * t.H
}

// fits tells whether a board of that length may lie on the rack at all.
func (p *Arms) fits(long length.Length) error {
	over := min(long/overhangQuotient, MaxOverhang)
	if long > p.W+2*over {
		return fmt.Errorf("%s too long for the arms", long-p.W-2*over)
	}
	return nil
}

// Spots beside and on top of the piles of each level.
func (p *Arms) Spots(t Thing, dst []Spot) []Spot {
	if p.fits(t.W) != nil {
		return dst
	}
	n := max(t.N, 1)
	for level := range p.Levels {
		for cols := 1; cols <= n; cols++ {
			if cols > 1 && (n+cols-1)/cols == (n+cols-2)/(cols-1) {
				continue // no lower than with fewer beside each other
			}
			try := func(y, z length.Length) {
				if s := (Spot{Level: level, X: (p.W - t.W) / 2, Y: y, Z: z, Cols: cols}); p.Allows(t, s) == nil {
					dst = append(dst, s)
				}
			}
			try(0, 0)
			for i := range p.placed {
				if b := &p.placed[i]; b.level == level {
					try(b.y+b.w, 0)
					try(b.y, b.z+b.h)
				}
			}
		}
	}
	return dst
}

// Allows checks a spot: within the level, clear of the others, and lying on the
// arms or wholly on one pile.
func (p *Arms) Allows(t Thing, s Spot) error {
	if err := p.fits(t.W); err != nil {
		return err
	}
	if s.Level < 0 || s.Level >= len(p.Levels) {
		return fmt.Errorf("there is no such level")
	}
	w, h := p.block(t, s.Cols)
	if w > p.D {
		return fmt.Errorf("%s too wide for the arms", w-p.D)
	}
	if h > p.Levels[s.Level].H {
		return fmt.Errorf("%s too high for the level", h-p.Levels[s.Level].H)
	}
	if s.Y < 0 || s.Z < 0 || s.Y+w > p.D || s.Z+h > p.Levels[s.Level].H {
		return fmt.Errorf("it would stick out of the level")
	}
	borne := s.Z == 0
	for i := range p.placed {
		b := &p.placed[i]
		if b.level != s.Level {
			continue
		}
		if b.y < s.Y+w && s.Y < b.y+b.w && b.z < s.Z+h && s.Z < b.z+b.h {
			return fmt.Errorf("another board lies there")
		}
		borne = borne || b.z+b.h == s.Z && b.y <= s.Y && s.Y+w <= b.y+b.top
	}
	if !borne {
		return fmt.Errorf("nothing bears it there")
	}
	return nil
}

// Put a thing.
func (p *Arms) Put(id int, t Thing, s Spot) {
	w, h := p.block(t, s.Cols)
	n, cols := length.Length(max(t.N, 1)), w/max(t.D, 1)
	last := n - (n-1)/cols*cols // boards in the uppermost row
	p.placed = append(p.placed, board{id, s.Level, s.Y, s.Z, w, h, last * t.D, p.Takes(t)})
}

// Take a thing; nothing may lie on it (see Bears).
func (p *Arms) Take(id int) {
	i := slices.IndexFunc(p.placed, func(b board) bool { return b.id == id })
	if i >= 0 {
		p.placed = slices.Delete(p.placed, i, i+1)
	}
}

// Bears tells whether another thing lies on it, so that it cannot be taken away alone.
func (p *Arms) Bears(id int) bool {
	i := slices.IndexFunc(p.placed, func(b board) bool { return b.id == id })
	return i >= 0 && slices.ContainsFunc(p.placed, p.placed[i].under)
}

// under tells whether another board lies directly on it.
func (a board) under(b board) bool {
	return b.level == a.level && b.z == a.z+a.h && b.y < a.y+a.w && a.y < b.y+b.w
}

// On lists the things that lie directly on one.
func (p *Arms) On(id int) (out []int) {
	i := slices.IndexFunc(p.placed, func(b board) bool { return b.id == id })
	if i < 0 {
		return nil
	}
	for _, b := range p.placed {
		if p.placed[i].under(b) {
			out = append(out, b.id)
		}
	}
	return out
}

// Used cross-section in µm².
func (p *Arms) Used() float64 {
	sum := 0.0
	for i := range p.placed {
		sum += p.placed[i].takes
	}
	return sum
}

// Room is the cross-section of all levels.
func (p *Arms) Room() float64 {
	sum := 0.0
	for _, l := range p.Levels {
		sum += float64(l.H) * float64(p.D)
	}
	return sum
}

// Takes is the cross-section of the boards.
func (p *Arms) Takes(t Thing) float64 { return float64(max(t.N, 1)) * float64(t.D) * float64(t.H) }
