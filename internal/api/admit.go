package api

import "hobrak/internal/core/fit"

// Admitted says where a thing would go when some others may move for it. Costs are
// seconds a week.
type Admitted struct {
	Found     bool      `json:"found"`
	Place     string    `json:"place" doc:"its home"`
	Moved     []Shifted `json:"moved" nullable:"false" doc:"what moves for it"`
	Seconds   float64   `json:"seconds" doc:"of it and of what moves, after"`
	Before    float64   `json:"before"`
	Why       string    `json:"why" doc:"why there is no home"`
	Change    string    `json:"change" doc:"the smallest change that would give it one"`
	More      float64   `json:"more" doc:"what would be gained on top if more might move"`
	MoreMoved int       `json:"more_moved"`
}

// Shifted is a thing that moves for another.
type Shifted struct {
	Item string `json:"item"`
	Name string `json:"name"`
	From string `json:"from"`
	To   string `json:"to"`
}

func (v *view) admitted(a fit.Admission) Admitted {
	out := Admitted{Found: a.Found, Moved: []Shifted{}, Seconds: a.Seconds, Before: a.Before, Why: a.Why, Change: a.Change, More: a.More, MoreMoved: a.MoreMoved}
	ix := v.asIs.Map().Index
	for i, h := range a.Homes {
		if i == 0 {
			out.Place = h.Place
			continue
		}
		from := ""
		if old := ix.Homes(h.Item); len(old) > 0 {
			from = old[0].Place
		}
		out.Moved = append(out.Moved, Shifted{h.Item, ix.Item(h.Item).Name, from, h.Place})
	}
	return out
}
