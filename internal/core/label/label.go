// Package label says what stands on the labels of a shop, how large it must be to be read from where one stands, and lays labels out
// on the sheets there are to buy, by their measures alone.
package label

import (
	"cmp"
	"fmt"
	"hash/fnv"
	"math"
	"slices"
	"strings"

	"hobrak/internal/core/access"
	"hobrak/internal/core/inorder"
	"hobrak/internal/core/keeping"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/weight"
)

// Label is what stands on one.
type Label struct {
	Of       string   `json:"of" enum:"place,container,item"`
	ID       string   `json:"id"`
	Address  string   `json:"address"`
	Name     string   `json:"name"`
	Lines    []string `json:"lines" nullable:"false" doc:"what is in it, in the order of the place; the most used first when it has none"`
	Hazards  []string `json:"hazards" nullable:"false" doc:"words of caution"`
	Load     string   `json:"load" doc:"what it may carry, as rated; empty without a rating"`
	Under    bool     `json:"under" doc:"it is over one's head: the label goes on its underside"`
	Distance float64  `json:"distance" doc:"from which it is read, mm"`
	Letters  float64  `json:"letters" doc:"height that letters need to be read from there, mm"`
	Mark     string   `json:"mark" doc:"changes when what stands on it does"`
}

// hazards in the words that stand on a label, by flag.
var hazards = []struct {
	flag shop.Flag
	says string
}{
	{shop.Flammable, "FLAMMABLE"}, {shop.Sharp, "SHARP"}, {shop.NotForChild, "NOT FOR CHILDREN"}, {shop.Fragile, "FRAGILE"},
	{shop.Freezes, "KEEP FROM FROST"},
}

// Of are the labels of a shop: of each place, each container that is carried, then, when they are asked for, each thing with a home.
func Of(s *shop.Shop, items bool) []Label {
	ix := shop.NewIndex(s)
	eye, dim := reader(s)
	out := []Label{}
	for i := range s.Places {
		p := &s.Places[i]
		in := ix.LivesIn(func(x *shop.Place) bool { return x == p })
		l := Label{Of: "place", ID: p.ID, Address: p.ID, Name: p.Name}
		if p.Order != "" {
			place := map[string]int{}
			for k, t := range inorder.Of(s, p, p.Order).Things {
				place[t.Item] = k
			}
			slices.SortStableFunc(in, func(a, b shop.Lives) int { return cmp.Compare(place[a.Item.ID], place[b.Item.ID]) })
		} else {
			byUse(in)
		}
		l.contents(in)
		if p.Capacity > 0 {
			l.Load = "max " + weight.Format(p.Capacity, s.Settings.Units)
		}
		if !keeping.Of(p).Hangs() || len(in) > 0 {
			l.read(eye, dim, height(ix, &p.At, p.H.MM()))
			out = append(out, l)
		}
	}
	for i := range s.Containers {
		c := &s.Containers[i]
		if !c.Portable {
			continue
		}
		in := ix.LivesIn(func(p *shop.Place) bool { return ix.Within(p, c.ID) })
		l := Label{Of: "container", ID: c.ID, Address: c.ID, Name: c.Name}
		byUse(in)
		l.contents(in)
		if c.Capacity > 0 {
			l.Load = "max " + weight.Format(c.Capacity, s.Settings.Units)
		}
		l.read(eye, dim, height(ix, &c.At, c.H.MM()))
		out = append(out, l)
	}
	if items {
		for i := range s.Items {
			it := &s.Items[i]
			homes := ix.Homes(it.ID)
			if len(homes) == 0 {
				continue
			}
			l := Label{Of: "item", ID: it.ID, Address: homes[0].Place, Name: it.Name, Lines: []string{}, Hazards: words([]shop.Lives{{Item: it}})}
			if it.SetUp != "" {
				l.Lines = append(l.Lines, it.SetUp)
			}
			l.Distance, l.Letters = held, Height(held, dim)
			l.mark()
			out = append(out, l)
		}
	}
	return out
}

// byUse has the most used first.
func byUse(in []shop.Lives) {
	slices.SortStableFunc(in, func(a, b shop.Lives) int { return cmp.Compare(b.Item.UsesPerWeek, a.Item.UsesPerWeek) })
}

// contents are what is in something, in the order they come in.
func (l *Label) contents(in []shop.Lives) {
	l.Lines = []string{}
	for _, x := range in {
		text := x.Item.Name
		if x.N > 1 {
			text = fmt.Sprintf("%d × %s", x.N, x.Item.Name)
		}
		l.Lines = append(l.Lines, text)
	}
	l.Hazards = words(in)
}

func words(in []shop.Lives) []string {
	out := []string{}
	for _, h := range hazards {
		if slices.ContainsFunc(in, func(x shop.Lives) bool { return x.Item.Flagged(h.flag) }) {
			out = append(out, h.says)
		}
	}
	return out
}

// Distances from which labels are read, mm: what one holds, and how far one stands before a wall.
const (
	held   = 450.0
	before = 600.0
)

// reader is the height of the eyes of the smallest adult and whether somebody has dim sight.
func reader(s *shop.Shop) (eye float64, dim bool) {
	eye = math.Inf(1)
	for _, b := range access.Bodies(s) {
		dim = dim || b.DimSight
		eye = min(eye, b.Eye)
	}
	return eye, dim
}

// height of the middle of something above the floor, mm.
func height(ix *shop.Index, at *shop.At, tall float64) float64 {
	_, z := ix.Offset(at)
	return z.MM() + tall/2
}

// overhead is how far above the eyes a label is read better from below, mm.
const overhead = 450.0

func (l *Label) read(eye float64, dim bool, z float64) {
	l.Under = z > eye+overhead
	l.Distance = math.Hypot(before, z-eye)
	l.Letters = Height(l.Distance, dim)
	l.mark()
}

// Height that capital letters need to be read from a distance, mm: they are to be seen under 20 minutes of arc, of which 16 are the
// least (ISO 9241-303, 5.5.4); half as much again for dim sight.
func Height(distance float64, dim bool) float64 {
	h := distance * math.Tan(20.0/60*math.Pi/180)
	if dim {
		h *= 1.5
	}
	return h
}

// mark changes when what stands on the label does.
func (l *Label) mark() {
	h := fnv.New64a()
	fmt.Fprintf(h, "%s\n%s\n%s\n%s\n%s\n%t", l.Address, l.Name, strings.Join(l.Lines, "\n"), strings.Join(l.Hazards, "\n"), l.Load, l.Under)
	l.Mark = fmt.Sprintf("%016x", h.Sum64())
}

// Stale sorts labels for printing: what was never printed or changed since first. Printed are the marks of those that were, by kind and
// id. It says how many are not as they should be.
func Stale(labels []Label, printed map[string]string) int {
	stale := func(l *Label) bool { return printed[l.Key()] != l.Mark }
	n := 0
	for i := range labels {
		if stale(&labels[i]) {
			n++
		}
	}
	slices.SortStableFunc(labels, func(a, b Label) int {
		switch x, y := stale(&a), stale(&b); {
		case x && !y:
			return -1
		case y && !x:
			return 1
		}
		return 0
	})
	return n
}

// Key of a label among all.
func (l *Label) Key() string { return l.Of + " " + l.ID }
