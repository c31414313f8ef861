package moves_test

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/demo"
	"hobrak/internal/core/check"
	"hobrak/internal/core/fit"
	"hobrak/internal/core/length"
	"hobrak/internal/core/moves"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/shoptest"
)

// broken are the rules a shop breaks that a step must not break: things in each other, too much weight.
func broken(t require.TestingT, s *shop.Shop) map[string]bool {
	found, err := check.Shop(s)
	require.NoError(t, err)
	out := map[string]bool{}
	for _, f := range found {
		if f.Hard && slices.Contains([]string{"overlap", "outside", "capacity", "load", "count", "size", "hold"}, f.Code) {
			what := f.What
			if f.Code == "capacity" || f.Code == "load" {
				what = f.Where
			}
			out[f.Code+" "+what] = true
		}
	}
	return out
}

// where things are: pieces by item, in homes and lying about.
type state struct {
	s     *shop.Shop
	loose map[string]int
}

func begin(now *shop.Shop) *state {
	x := &state{s: now.Clone(), loose: map[string]int{}}
	ix := shop.NewIndex(x.s)
	for i := range x.s.Items {
		it := &x.s.Items[i]
		n := it.Number()
		for _, h := range ix.Homes(it.ID) {
			n -= h.Number(it)
		}
		x.loose[it.ID] = n
	}
	return x
}

// step is done on the shop itself, by another way than the plan's: what is not there cannot be taken.
func (x *state) step(t require.TestingT, m *moves.Step, target *shop.Shop, where string) {
	ix := shop.NewIndex(x.s)
	switch m.Do {
	case moves.Carry:
		it := ix.Item(m.Item)
		require.NotNil(t, it, where)
		require.Positive(t, m.Count, where)
		if m.From == nil {
			require.GreaterOrEqual(t, x.loose[m.Item], m.Count, "%s: %s", where, m.Name)
			x.loose[m.Item] -= m.Count
		} else {
			there := 0
			for _, h := range ix.Homes(m.Item) {
				if h.Place == m.From.Place && h.X == m.From.X && h.Y == m.From.Y && h.Z == m.From.Z && h.Slot == m.From.Slot && h.Level == m.From.Level && h.Row == m.From.Row {
					there += h.Number(it)
				}
			}
			require.GreaterOrEqual(t, there, m.Count, "%s: %s is not at %+v", where, m.Name, m.From)
		}
		x.s.Homes = moves.Done(x.s.Homes, ix.Item, m)
		if m.To == nil {
			x.loose[m.Item] += m.Count
		}
	default:
		if m.Part < m.Parts {
			return
		}
		x.s = built(x.s, target, m)
	}
	ix = shop.NewIndex(x.s)
	for i := range x.s.Items {
		it := &x.s.Items[i]
		n := x.loose[it.ID]
		for _, h := range ix.Homes(it.ID) {
			require.NotNil(t, ix.Place(h.Place), "%s: %s lives in %s, which is not there", where, it.Name, h.Place)
			n += h.Number(it)
		}
		require.Equal(t, it.Number(), n, "%s: pieces of %s", where, it.Name)
	}
}

// built is a shop after something was built, shifted or taken down, as the target has it.
func built(s, target *shop.Shop, m *moves.Step) *shop.Shop {
	return moves.Built(s, target, m)
}

// lawful holds that no step breaks a rule, and that the last leaves the homes of the target.
func lawful(t require.TestingT, now, target *shop.Shop, p *moves.Plan, where string, every int) {
	x := begin(now)
	was := broken(t, now)
	for k := range p.Evenings {
		for i := range p.Evenings[k].Steps {
			m := &p.Evenings[k].Steps[i]
			at := fmt.Sprintf("%s, evening %d, step %d %s %s%s", where, k+1, m.N, m.Do, m.Item, m.What)
			x.step(t, m, target, at)
			if m.N%every != 0 && i < len(p.Evenings[k].Steps)-1 {
				continue
			}
			is := broken(t, x.s)
			for f := range is {
				require.True(t, was[f], "%s: %s", at, f)
			}
			was = is
		}
	}
	if len(p.Stuck) > 0 {
		return
	}
	key := func(list []shop.Home) (out []string) {
		for _, h := range list {
			it := shop.NewIndex(target).Item(h.Item)
			if it == nil {
				continue
			}
			h.N, h.Locked = h.Number(it), false
			out = append(out, fmt.Sprintf("%+v", h))
		}
		slices.Sort(out)
		return out
	}
	goal := key(target.Homes)
	for _, h := range key(x.s.Homes) {
		if !slices.Contains(goal, h) {
			// What the target gives no home keeps the one it has.
			id := strings.TrimPrefix(strings.Fields(h)[0], "{Item:")
			ix, given := shop.NewIndex(target), 0
			for _, g := range ix.Homes(id) {
				given += g.Number(ix.Item(id))
			}
			require.Less(t, given, ix.Item(id).Number(), "%s: %s", where, h)
		}
	}
	// Where pieces are to be, so many are at least.
	at := map[string]int{}
	ix := shop.NewIndex(target)
	for _, h := range x.s.Homes {
		n := h.Number(ix.Item(h.Item))
		h.N, h.Locked = 0, false
		at[fmt.Sprintf("%+v", h)] += n
	}
	for _, h := range target.Homes {
		n := h.Number(ix.Item(h.Item))
		h.N, h.Locked = 0, false
		require.GreaterOrEqual(t, at[fmt.Sprintf("%+v", h)], n, "%s: %+v", where, h)
	}
}

// lawfully puts everything somewhere it fits, in no particular order; some in two halves, some nowhere.
func lawfully(t require.TestingT, s *shop.Shop, seed uint64) *shop.Shop {
	rng := rand.New(rand.NewPCG(seed, 8))
	out := s.Clone()
	out.Homes = nil
	h, err := fit.NewHands(out)
	require.NoError(t, err)
	for _, i := range rng.Perm(len(out.Items)) {
		it := &out.Items[i]
		parts := []int{it.Number()}
		if n := it.Number(); n > 1 && rng.IntN(3) == 0 {
			parts = []int{n / 2, n - n/2}
		}
		for _, n := range parts {
			if !it.Needs() || rng.IntN(12) == 0 {
				continue
			}
			k := h.Pick(i, n)
			for range 4 {
				if at, ok := h.Room(k, func(string) bool { return rng.IntN(3) == 0 }); ok {
					require.NoError(t, h.Lay(k, &at))
					break
				}
			}
		}
	}
	for _, x := range h.All() {
		if x.Home.Place != "" && x.N > 0 {
			it := &out.Items[x.Item]
			if x.Home.N = x.N; x.N == it.Number() {
				x.Home.N = 0
			}
			x.Home.Item = it.ID
			out.Homes = append(out.Homes, x.Home)
		}
	}
	return out
}

// moved is a shop in which some storage and stations are elsewhere, gone or new.
func moved(s *shop.Shop, seed uint64) *shop.Shop {
	rng := rand.New(rand.NewPCG(seed, 9))
	out := s.Clone()
	for i := range out.Places {
		p := &out.Places[i]
		switch rng.IntN(8) {
		case 0:
			if p.At.Wall != "" {
				p.At.X += length.MM(float64(rng.IntN(500)))
			}
		case 1:
			p.H, p.D = p.H+length.MM(40), p.D+length.MM(30)
		}
	}
	if n := len(out.Places); n > 2 && rng.IntN(2) == 0 {
		gone := out.Places[rng.IntN(n)].ID
		if !slices.ContainsFunc(out.Containers, func(c shop.Container) bool { return c.At.In == gone }) {
			out.Places = slices.DeleteFunc(out.Places, func(p shop.Place) bool { return p.ID == gone })
			out.Homes = slices.DeleteFunc(out.Homes, func(h shop.Home) bool { return h.Place == gone })
			for i := range out.Items {
				if out.Items[i].Lies == gone {
					out.Items[i].Lies = ""
				}
			}
		}
	}
	for i := range out.Stations {
		if rng.IntN(4) == 0 {
			out.Stations[i].X += length.MM(100)
		}
	}
	return out
}

// Every prefix of a plan is lawful, between homes that are lawful, with storage built, changed, moved and taken down besides.
func TestEveryStepLeavesALawfulShop(t *testing.T) {
	asides, stuck, steps, built, plans := 0, 0, 0, 0, 0
	for seed := range shoptest.Seeds(100) {
		bare := shoptest.Random(seed, shoptest.Few)
		now := lawfully(t, bare, seed)
		then := bare
		if seed%3 == 0 {
			then = moved(bare, seed)
			if then.Validate() != nil {
				continue
			}
		}
		target := lawfully(t, then, seed+1000)
		where := fmt.Sprintf("seed %d", seed)
		p, err := moves.Of(now, target, moves.Options{Minutes: 10 + float64(seed%90)})
		require.NoError(t, err, where)
		lawful(t, now, target, p, where, 1)
		plans++
		asides += p.Temporary
		stuck += len(p.Stuck)
		for _, why := range p.Stuck {
			t.Logf("%s: %s", where, why)
		}
		for _, e := range p.Evenings {
			steps += len(e.Steps)
			for _, s := range e.Steps {
				if s.Do != moves.Carry {
					built++
				}
			}
		}
	}
	t.Logf("%d plans, %d steps, %d of them with storage and stations, %d put aside, %d stuck", plans, steps, built, asides, stuck)
	assert.Positive(t, asides)
	assert.Positive(t, built)
	assert.Zero(t, stuck)
}

// From a shop that breaks rules as it stands a plan is made as well: nothing is lost, and what cannot be done is said.
func TestFromAShopThatBreaksRulesNothingIsLost(t *testing.T) {
	for seed := range shoptest.Seeds(60) {
		now := shoptest.Random(seed, shoptest.Few)
		target := lawfully(t, now, seed)
		p, err := moves.Of(now, target, moves.Options{Minutes: 45})
		require.NoError(t, err)
		x := begin(now)
		for k := range p.Evenings {
			for i := range p.Evenings[k].Steps {
				x.step(t, &p.Evenings[k].Steps[i], target, fmt.Sprintf("seed %d", seed))
			}
		}
	}
}

func TestTheDemoAnEveningAtATime(t *testing.T) {
	now, err := shop.Read(demo.Slipway)
	require.NoError(t, err)
	e, err := fit.New(now)
	require.NoError(t, err)
	target := e.Run(fit.Options{Seed: 1, Iterations: 2000}).Apply(now)
	p, err := moves.Of(now, target, moves.Options{Minutes: 60})
	require.NoError(t, err)
	for i, x := range p.Evenings {
		t.Logf("evening %d: %.0f min, %d steps, %d aside, %.0f s a week after", i+1, x.Minutes, len(x.Steps), x.Aside, x.Handling)
	}
	t.Logf("%.0f to %.0f s a week, %d put aside, %.0f min; stuck %v", p.Handling.Now, p.Handling.Target, p.Temporary, p.Minutes, p.Stuck)
	lawful(t, now, target, p, "demo", 20)
	assert.Empty(t, p.Stuck)
	half := p.Evenings[(len(p.Evenings)-1)/2].Handling
	assert.GreaterOrEqual(t, p.Handling.Now-half, .7*(p.Handling.Now-p.Handling.Target), "gain after half of the evenings")
}
