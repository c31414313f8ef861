package shift

import "hobrak/internal/core/shop"

// Exhaustive is the fewest moves by looking at all arrangements breadth first, by the same rules of what can be moved; -1 when
// there is no way.
func Exhaustive(s *shop.Shop, from, to string) (moves int, err error) {
	p, err := problemOf(s, from, to)
	if err != nil {
		return 0, err
	}
	layer := []now{make(now, len(p.bodies))}
	seen := map[string]bool{layer[0].key(): true}
	for n := 0; len(layer) > 0; n++ {
		var next []now
		for _, at := range layer {
			there := true
			for i := range at {
				there = there && at[i] == end
			}
			if there {
				return n, nil
			}
			for i := range p.bodies {
				for to := range p.bodies[i].at {
					if to == start || at[i] == end || to > end && at[i] != start {
						continue
					}
					if _, ok := p.can(at, i, uint8(to)); !ok {
						continue
					}
					then := append(now{}, at...)
					then[i] = uint8(to)
					if !seen[then.key()] {
						seen[then.key()] = true
						next = append(next, then)
					}
				}
			}
		}
		layer = next
	}
	return -1, nil
}
