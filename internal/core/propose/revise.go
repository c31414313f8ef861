package propose

import (
	"math/rand/v2"
	"slices"
	"strings"

	"hobrak/internal/core/check"
	"hobrak/internal/core/fit"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/storage"
)

// state of a proposal while it is revised: bare walls with what was made so far, and homes for everything.
type state struct {
	shop *shop.Shop
	made []Made
	plan *fit.Plan
}

// lacks is what a thing without a home counts, in seconds a week: more than any handling.
const lacks = 1e5

// aPiece is what each piece of storage counts, in seconds a week (estimate): it has to be built, and its screws found again.
const aPiece = 1.0

// cost of a state: handling, what it has no home for, and its pieces.
func (x *state) cost() float64 {
	return x.plan.Objective + lacks*float64(len(x.plan.Homeless)) + aPiece*float64(len(x.made))
}

// over tells whether more is built than may be.
func (o *Options) over(made []Made) bool {
	sheet, rail := 0.0, 0.0
	for _, m := range made {
		sheet, rail = sheet+m.Sheet, rail+m.Rail
	}
	b := &o.Budget
	return b.Sheet > 0 && sheet > b.Sheet+1e-9 || b.Pieces > 0 && len(made) > b.Pieces || b.Money > 0 && sheet*o.prices.Sheet+rail*o.prices.Rail > b.Money+1e-9
}

// trim takes down what is used least for its material until no more is built than may be; what lived in it has no home then.
func trim(s *shop.Shop, made []Made, o *Options) ([]Made, error) {
	for o.over(made) && len(made) > 0 {
		ix := shop.NewIndex(s)
		uses := make([]float64, len(made))
		for i := range s.Items {
			for _, h := range ix.Homes(s.Items[i].ID) {
				p := ix.Place(h.Place)
				if p == nil {
					continue
				}
				id := p.ID
				if chain, _ := ix.Chain(&p.At); len(chain) > 0 {
					id = chain[len(chain)-1].ID
				}
				if k := slices.IndexFunc(made, func(m Made) bool { return m.ID == id }); k >= 0 {
					uses[k] += s.Items[i].UsesPerWeek
				}
			}
		}
		least := 0
		for k := range made {
			if uses[k]/(.1+made[k].Sheet+made[k].Rail) < uses[least]/(.1+made[least].Sheet+made[least].Rail) {
				least = k
			}
		}
		if _, err := storage.Remove(s, made[least].ID); err != nil {
			return nil, err
		}
		made = slices.Delete(slices.Clone(made), least, least+1)
	}
	return made, nil
}

// What is tried at random: a way of working, the share of the things that count as used most, and how many go together.
var (
	tiers = []float64{0, .2, .5}
	mosts = []int{14, 28, 50}
)

// revise a proposal: again and again some of what was made is taken down, and what lived in it, at times with what costs most of all, gets
// storage otherwise: another kind, another size, elsewhere, split or merged. What is quicker in use is kept (ruin and recreate, as for homes).
// The same tries give the same proposal.
func revise(x *state, before map[string]bool, o Options, from, to float64) (*state, error) {
	rng := rand.New(rand.NewPCG(o.Seed, 9))
	for n := 0; n < o.Revisions && !o.Done() && o.Spent() < revising; n++ {
		o.Progress(from+(to-from)*max(float64(n)/float64(o.Revisions), o.Spent()/revising), "revising")
		next, err := revised(x, before, o, rng)
		if err != nil {
			return nil, err
		}
		if next != nil && next.cost() < x.cost()-1e-6 {
			x = next
		}
	}
	return x, nil
}

// revised once; nil when nothing is left to be taken down, or more is built than may be.
func revised(x *state, before map[string]bool, o Options, rng *rand.Rand) (*state, error) {
	if len(x.made) == 0 {
		return nil, nil
	}
	next := x.shop.Clone()
	made := slices.Clone(x.made)
	down := func(k int) error {
		_, err := storage.Remove(next, made[k].ID)
		made = slices.Delete(made, k, k+1)
		return err
	}
	many := 1 + rng.IntN(3)
	wall := made[rng.IntN(len(made))].Wall
	for range many {
		var of []int // on one wall as a rule: what is left free there may be put to other use
		for k := range made {
			if made[k].Wall == wall {
				of = append(of, k)
			}
		}
		if len(of) == 0 || rng.IntN(4) == 0 {
			if len(made) == 0 {
				break
			}
			of = []int{rng.IntN(len(made))}
		}
		if err := down(of[rng.IntN(len(of))]); err != nil {
			return nil, err
		}
	}
	if rng.IntN(2) == 0 {
		dearest(next, 8+rng.IntN(16))
	}
	try := o
	try.light = true
	try.tier, try.most = tiers[rng.IntN(len(tiers))], mosts[rng.IntN(len(mosts))]
	style := o.Style
	if rng.IntN(3) == 0 {
		all := Styles()
		style = all[rng.IntN(len(all))].ID
	}
	scratch := &Proposal{}
	try.Progress = func(float64, string) {}
	if err := build(next, groups(next, style, &try), scratch, try, 0, 1); err != nil {
		return nil, err
	}
	made = append(made, scratch.Made...)
	if o.over(made) || o.Done() {
		return nil, nil
	}
	// What breaks a rule where it was put comes down again; its things go where there is room.
	for range 3 {
		found, err := check.Shop(next)
		if err != nil {
			return nil, err
		}
		if !worse(found, before) {
			break
		}
		k := faulty(found, before, made)
		if k < 0 {
			return nil, nil
		}
		if err := down(k); err != nil {
			return nil, err
		}
	}
	wishes := fit.WishesOf(next)
	wishes.Moving = 0 // nothing hangs there yet
	plan, err := homes(next, fit.Options{Seed: 1, Iterations: quick, Wishes: &wishes, Done: o.Done})
	if err != nil {
		return nil, err
	}
	return &state{plan.Apply(next), made, plan}, nil
}

// faulty is the number of a piece that breaks a rule which was not broken before; -1 when none is named.
func faulty(found []check.Finding, before map[string]bool, made []Made) int {
	for _, f := range found {
		if !f.Hard || before[f.Code+f.Where] {
			continue
		}
		names := func(m Made) bool { return f.Where == m.ID || slices.Contains(strings.Fields(f.What), m.ID) }
		if k := slices.IndexFunc(made, names); k >= 0 {
			return k
		}
	}
	return -1
}

// revising is the share of the time after which only the homes are looked for.
const revising = .8

// quick is how many tries the homes of a revision get.
const quick = 150

// dearest takes the homes of the things away that cost most where they are, so that they are thought of anew.
func dearest(s *shop.Shop, many int) {
	e, err := fit.New(s)
	if err != nil {
		return
	}
	cost := e.AsItIs().Dearest(many)
	s.Homes = slices.DeleteFunc(s.Homes, func(h shop.Home) bool { return !h.Locked && slices.Contains(cost, h.Item) })
}
