package fit

import (
	"cmp"
	"fmt"
	"math"
	"slices"
)

// families of a shop. A case is one place, whatever it has inside.
type families struct {
	of   []int // by item, none without one
	host []int // by place: its outermost container, or itself
	must []int // those that must stay together
	n    int   // how many there are
}

// families finds who belongs together and what counts as one place.
func (e *Problem) families() families {
	f := families{}
	known := map[string]int{}
	for i := range e.shop.Items {
		name := e.shop.Items[i].Family
		if name == "" {
			f.of = append(f.of, none)
			continue
		}
		k, ok := known[name]
		if !ok {
			k = len(known)
			known[name] = k
			if slices.Contains(e.shop.Settings.Together, name) {
				f.must = append(f.must, k)
			}
		}
		f.of = append(f.of, k)
	}
	cases := map[string]int{}
	for i := range e.shop.Places {
		p := &e.shop.Places[i]
		f.host = append(f.host, i)
		if chain, _ := e.ways.Index.Chain(&p.At); len(chain) > 0 {
			outer := chain[len(chain)-1].ID
			if k, ok := cases[outer]; ok {
				f.host[i] = k
			} else {
				cases[outer] = i
			}
		}
	}
	f.n = len(known)
	return f
}

// join or leave: a parcel of an item goes into a place, or out of it.
func (e *Arrangement) join(item, place, by int) {
	k := e.kin.of[item]
	if k == none {
		return
	}
	h := e.kin.host[place]
	if e.cases[k][h] += by; e.cases[k][h] == 0 {
		delete(e.cases[k], h)
	}
}

// bound tells whether an item's family must stay together.
func (f *families) bound(item int) bool {
	return f.of[item] != none && slices.Contains(f.must, f.of[item])
}

// torn tells whether a place would tear a family apart that must stay together.
func (e *Arrangement) torn(item, place int) bool {
	if len(e.kin.must) == 0 || !e.kin.bound(item) {
		return false
	}
	there := e.cases[e.kin.of[item]]
	return len(there) > 0 && there[e.kin.host[place]] == 0
}

// tornApart says where the family of an item lives, when it must stay together and a
// place is elsewhere.
func (e *Arrangement) tornApart(item, place int) string {
	if !e.torn(item, place) {
		return ""
	}
	least := math.MaxInt
	for h := range e.cases[e.kin.of[item]] {
		least = min(least, h)
	}
	return fmt.Sprintf("%s must stay together, and live in %s", e.shop.Items[item].Family, e.hostName(least))
}

// hostName is the address of an outermost case or place.
func (e *Problem) hostName(host int) string {
	p := &e.shop.Places[host]
	if chain, _ := e.ways.Index.Chain(&p.At); len(chain) > 0 {
		return chain[len(chain)-1].ID
	}
	return p.ID
}

// mostHosts are tried for a family.
const mostHosts = 8

// gather finds the members of a family that are among some parcels and have no home
// the case that takes them all at least cost.
func (r *search) gather(family int, list []int) {
	var members []int
	for _, i := range list {
		if r.kin.of[r.parcels[i].item] == family && r.parcels[i].place == none {
			members = append(members, i)
		}
	}
	if len(members) == 0 || len(r.cases[family]) > 0 {
		return // what is there already says where the others go
	}
	best, least := none, math.Inf(1)
	for _, h := range r.hostsFor(members) {
		r.assemble(members, h)
		sum := 0.0
		for _, i := range members {
			sum += r.value(i)
		}
		if sum < least {
			best, least = h, sum
		}
		for _, i := range members {
			if r.parcels[i].place != none {
				r.take(i)
			}
		}
	}
	if best != none {
		r.assemble(members, best)
	}
}

// assemble gives parcels homes in one case, as far as it takes them. Others than those
// whose family must stay together are left out.
func (r *search) assemble(list []int, host int) {
	members := slices.DeleteFunc(slices.Clone(list), func(i int) bool { return !r.kin.bound(r.parcels[i].item) })
	r.only = host
	r.recreate(members, manner{paying: true})
	r.only = none
}

// hostsFor parcels: the cases that could take most of them, the cheapest first.
func (r *search) hostsFor(list []int) []int {
	cost := map[int]float64{}
	for _, i := range list {
		p := &r.parcels[i]
		share := float64(p.n) / float64(r.shop.Items[p.item].Number())
		without := r.homelessCost(p.item, p.n) + r.nuisance[p.item]
		seen := map[int]bool{}
		for k := range r.fits[p.item] {
			o := &r.fits[p.item][k]
			if h := r.kin.host[o.place]; !seen[h] { // the cheapest place in it comes first
				seen[h] = true
				cost[h] += o.least*share - without
			}
		}
	}
	var hosts []int
	for h := range cost {
		hosts = append(hosts, h)
	}
	slices.SortFunc(hosts, func(a, b int) int { return cmp.Or(cmp.Compare(cost[a], cost[b]), a-b) })
	return hosts[:min(len(hosts), mostHosts)]
}

// ruinFamily takes a family that must stay together out as a whole, and some of what
// is in the case it shall go to.
func (r *search) ruinFamily(open []int) (out []int, first, host int) {
	family := r.kin.must[r.rng.IntN(len(r.kin.must))]
	for _, i := range open {
		if r.kin.of[r.parcels[i].item] == family {
			out = append(out, i)
		}
	}
	if len(out) == 0 || len(r.cases[family]) > 1 {
		return out[:min(len(out), 1)], none, none
	}
	hosts := r.hostsFor(out)
	if len(hosts) == 0 {
		return out, none, none
	}
	host = hosts[r.rng.IntN(len(hosts))]
	most := len(out) + 4 + r.rng.IntN(8)
	for place, h := range r.kin.host {
		if h != host {
			continue
		}
		for _, i := range r.there[place] {
			if len(out) < most && !r.parcels[i].fixed && !slices.Contains(out, i) && !r.bears(i) && r.rng.IntN(2) == 0 {
				out = append(out, i)
			}
		}
	}
	return out, none, host
}

// without gives those of some parcels that have no home.
func (r *search) without(list []int) []int {
	return slices.DeleteFunc(slices.Clone(list), func(i int) bool { return r.parcels[i].place != none })
}
