package fit

import "slices"

// Multiples live together when they can: one home is easier to know.
// They are parted where they find no room together, and where living together costs
// more than it is worth.

const (
	// coarsest is into how many parts at most an item is split to find homes.
	coarsest = 16
	// together is what one home for multiples is worth, seconds a week
	// for each home more.
	together = .5
)

// split tries multiples and found no room together in parts.
func (r *search) split() {
	for i := 0; i < len(r.parcels); i++ {
		p := &r.parcels[i]
		if p.place != none || p.fixed || !r.divisible(p) || r.o.Done() {
			continue
		}
		r.recreate([]int{i, r.halve(i)}, manner{})
		if r.parcels[i].place == none {
			i-- // halve it again
		}
	}
}

// part tries those things in parts that lose much against their best place, and gives
// the numbers of the parcels it made.
func (r *search) part(open []int) (made []int) {
	for _, i := range open {
		if r.o.Done() {
			break
		}
		p := &r.parcels[i]
		it := &r.shop.Items[p.item]
		if p.place == none || len(r.fits[p.item]) == 0 || !r.divisible(p) || r.bears(i) {
			continue
		}
		least := r.fits[p.item][0].least * float64(p.n) / float64(it.Number())
		if r.value(i)-least < 2*together {
			continue
		}
		was := r.savedOf(i)
		before, n := r.value(i)+r.apart([]int{i})+r.upkeep, p.n
		r.take(i)
		k := r.halve(i)
		r.recreate([]int{i, k}, manner{paying: true})
		if after := r.value(i) + r.value(k) + r.apart([]int{i}) + r.upkeep; after+together < before && r.parcels[i].place != r.parcels[k].place {
			r.now += after - before
			made = append(made, k)
			continue
		}
		for _, j := range []int{i, k} {
			if r.parcels[j].place != none {
				r.take(j)
			}
		}
		r.parcels, r.memo = r.parcels[:k], r.memo[:min(k, len(r.memo))]
		r.since = slices.DeleteFunc(r.since, func(j int) bool { return j == k })
		r.parcels[i].n = n
		r.back([]saved{was})
	}
	return made
}

// divisible tells whether a parcel may be halved: no item goes into more than so many parts.
func (r *search) divisible(p *parcel) bool {
	return p.n >= 2 && p.n > (r.shop.Items[p.item].Number()+coarsest-1)/coarsest
}

// halve a parcel without a home and give the number of the new one.
func (r *search) halve(i int) int {
	p := &r.parcels[i]
	half := p.n / 2
	p.n -= half
	p.cost = r.homelessCost(p.item, p.n)
	r.parcels = append(r.parcels, parcel{item: p.item, n: half, place: none, cost: r.homelessCost(p.item, half)})
	return len(r.parcels) - 1
}
