package shop

import "slices"

// Tidy forgets what no longer means anything after a change: where a thing lay that now has a home or whose place is
// gone, and whose it was when nobody of that name is left.
func (s *Shop) Tidy() {
	loose := false
	for i := range s.Items {
		it := &s.Items[i]
		if it.Whose != "" && !slices.ContainsFunc(s.Settings.People, func(p Person) bool { return p.ID == it.Whose }) {
			it.Whose = ""
		}
		loose = loose || it.Lies != ""
	}
	if !loose {
		return
	}
	ix := NewIndex(s)
	for i := range s.Items {
		it := &s.Items[i]
		if it.Lies != "" && (ix.Place(it.Lies) == nil || ix.Homed(it) >= it.Number()) {
			it.Lies = ""
		}
	}
}
