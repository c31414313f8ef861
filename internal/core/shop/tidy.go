package shop

import "slices"

// Fresh tells whether nothing is said of a shop yet: nobody uses it, nothing is in it, and no room was measured.
func (s *Shop) Fresh() bool {
	if len(s.Settings.People)+len(s.Stations)+len(s.Containers)+len(s.Places)+len(s.Items) > 0 {
		return false
	}
	for i := range s.Areas {
		if sv := s.Areas[i].Survey; sv == nil || len(sv.Measures) > 0 {
			return false
		}
	}
	return true
}

// Tidy forgets what no longer means anything after a change: where a thing lay that now has a home or whose place is
// gone, whose it was when nobody of that name is left, and the stops of jobs that are no more.
func (s *Shop) Tidy() {
	s.tidyJobs()
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

// Date notes the day for each station that stands elsewhere than before, unless it was said otherwise: how long it stands there decides
// whether something fixed is led to it.
func (s *Shop) Date(before *Shop, day string) {
	if s.Whole {
		return
	}
	ix := NewIndex(before)
	for i := range s.Stations {
		st := &s.Stations[i]
		if was := ix.Station(st.ID); was != nil && was.Placed == st.Placed && (was.X != st.X || was.Y != st.Y || was.Rot != st.Rot || was.Area != st.Area) {
			st.Placed = day
		}
	}
}

func (s *Shop) tidyJobs() {
	if len(s.Settings.Jobs) == 0 {
		return
	}
	ix := NewIndex(s)
	gone := func(stop string) bool {
		return stop != "door" && ix.Station(stop) == nil && ix.Place(stop) == nil && ix.Container(stop) == nil
	}
	jobs := slices.Clone(s.Settings.Jobs)
	for i := range jobs {
		if slices.ContainsFunc(jobs[i].Path, gone) {
			jobs[i].Path = slices.DeleteFunc(slices.Clone(jobs[i].Path), gone)
		}
	}
	s.Settings.Jobs = jobs
}
