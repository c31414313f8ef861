package shift

import "hobrak/internal/core/shop"

// Exhaustive is the fewest moves, up to a most, by looking at all arrangements breadth first, by the same rules of what can be
// moved; -1 when so few do not do it. A move moves one body, so an arrangement from which more bodies have to go to their spots
// than moves are left leads nowhere: nothing else is left out.
func Exhaustive(s *shop.Shop, from, to string, most int) (moves int, err error) {
	p, err := problemOf(s, from, to)
	if err != nil {
		return 0, err
	}
	layer := []now{make(now, len(p.bodies))}
	seen := map[string]bool{layer[0].key(): true}
	for n := 0; len(layer) > 0; n++ {
		var next []now
		for _, at := range layer {
			if left(at) == 0 {
				return n, nil
			}
			for i := range p.bodies {
				for to := range p.bodies[i].at {
					if to == start || at[i] == end || to > end && at[i] != start {
						continue
					}
					then := append(now{}, at...)
					then[i] = uint8(to)
					if n+1+left(then) > most || seen[then.key()] {
						continue
					}
					if _, ok := p.can(at, i, uint8(to)); !ok {
						continue
					}
					seen[then.key()] = true
					next = append(next, then)
				}
			}
		}
		layer = next
	}
	return -1, nil
}

// left are the bodies that are not at their spots yet.
func left(at now) (n int) {
	for _, x := range at {
		if x != end {
			n++
		}
	}
	return n
}
