package api

import (
	"context"
	"fmt"
	"net/http"
	"slices"
	"strings"
	"time"

	"hobrak/internal/core/access"
	"hobrak/internal/core/daily"
	"hobrak/internal/core/event"
	"hobrak/internal/core/find"
	"hobrak/internal/core/keeping"
	"hobrak/internal/core/kinds"
	"hobrak/internal/core/round"
	"hobrak/internal/core/shop"

	"github.com/danielgtaylor/huma/v2"
)

func (s *Server) findRoutes() {
	huma.Register(s.api, described(huma.Operation{OperationID: "find", Method: http.MethodGet, Path: "/api/v1/find", Summary: "Where is it?"}), s.find)
}

// entries lists everything that can be found.
func entries(s *shop.Shop, r *round.Round) []find.Entry {
	var out []find.Entry
	own := map[string]*shop.Item{}
	for i := range s.Items {
		own[s.Items[i].ID] = &s.Items[i]
	}
	kits := map[string]string{} // by item
	for i := range s.Kits {
		k := &s.Kits[i]
		for _, x := range k.Items {
			kits[x.Item] += " " + k.Name
		}
		out = append(out, find.Entry{ID: k.ID, Kind: "kit", Texts: []find.Text{{Words: k.Name, Weight: .95}, {Words: "kit", Weight: .5}}})
	}
	ix := shop.NewIndex(s)
	room := func(place string) string { // of several areas it is said in which
		if p := ix.Place(place); p != nil && len(s.Areas) > 1 {
			_, at := ix.Chain(&p.At)
			if a := ix.Area(at.Area); a != nil {
				return a.Called()
			}
		}
		return ""
	}
	for _, it := range slices.Concat(r.Items, r.Wished) {
		texts := []find.Text{{Words: it.Name, Weight: 1}, {Words: it.Family, Weight: .7}, {Words: it.Kind, Weight: .65}, {Words: it.Place, Weight: .6}, {Words: it.Lies, Weight: .6}, {Words: it.Whose, Weight: .5}, {Words: it.Notes, Weight: .5}}
		if k, ok := kinds.ByID(it.Kind); ok {
			// What others call such a thing, too.
			texts = append(texts, find.Text{Words: k.Name + " " + strings.Join(k.Also, " "), Weight: .62})
		}
		for _, t := range []find.Text{{Words: own[it.ID].PromisedTo, Weight: .7}, {Words: own[it.ID].SetUp, Weight: .5}, {Words: kits[it.ID], Weight: .55}, {Words: room(it.Place), Weight: .5}} {
			if t.Words != "" {
				texts = append(texts, t)
			}
		}
		out = append(out, find.Entry{ID: it.ID, Kind: "item", Texts: texts, Marks: marks(&it)})
	}
	for i := range s.Places {
		p := &s.Places[i]
		out = append(out, find.Entry{ID: p.ID, Kind: "place", Texts: []find.Text{{Words: p.ID, Weight: 1}, {Words: p.Name, Weight: .9}}})
	}
	for i := range s.Containers {
		c := &s.Containers[i]
		out = append(out, find.Entry{ID: c.ID, Kind: "container", Texts: []find.Text{{Words: c.ID, Weight: 1}, {Words: c.Name, Weight: .85}}})
	}
	for i := range s.Stations {
		st := &s.Stations[i]
		out = append(out, find.Entry{ID: st.ID, Kind: "station", Texts: []find.Text{{Words: st.Name, Weight: .85}}})
	}
	return out
}

// marks of an item that a search can ask for.
func marks(it *round.Item) (out []string) {
	for _, st := range it.UsedAt {
		out = append(out, "@"+strings.ToLower(st))
	}
	for _, f := range it.Flags {
		out = append(out, "#"+string(f))
	}
	if len(it.Assumed) > 0 {
		out = append(out, "assumed")
	}
	switch {
	case it.Status == "wished", it.Status == "limbo":
		out = append(out, it.Status)
	}
	if it.Place == "" && it.Status != "wished" {
		out = append(out, "homeless")
	}
	return out
}

// found describes a hit.
func (v *view) found(h find.Hit) Found {
	out := Found{ID: h.Entry.ID, Kind: h.Entry.Kind, Sure: h.Exact, Out: []OutNow{}, With: []Wanted{}, Open: []string{}}
	ix := v.asIs.Map().Index
	switch h.Entry.Kind {
	case "item":
		it := v.drawn(h.Entry.ID)
		out.Name, out.Address = it.Name, it.Place
		if it.Status == "wished" {
			out.Where = "wished for"
		}
		out.Going = v.going()[it.ID]
		out.Count, out.Home = it.Count, it.Count
		if own := ix.Item(it.ID); own != nil {
			out.SetUp, out.Caution = own.SetUp, daily.Caution(own)
		}
		if len(it.Photos) > 0 {
			out.Photo = it.Photos[0]
		}
		if p := ix.Place(it.Place); p != nil {
			out.Where, out.Now = v.inWords(p), v.here().of(it.ID, p.ID)
			for _, a := range v.asIs.Map().Front(v.asIs.Map().PlaceNumber(p.ID)).Accesses {
				out.Open = append(out.Open, a.Says())
			}
			for _, c := range chainOf(ix, p) {
				if c.Portable {
					out.Box = c.ID
				}
			}
		} else if p := ix.Place(it.Lies); p != nil {
			out.Address, out.Where = p.ID, "lies on top or leans in "+v.inWords(p)
		}
	case "place":
		p := ix.Place(h.Entry.ID)
		out.Name, out.Address, out.Where = p.Name, p.ID, v.inWords(p)
	case "container":
		c := ix.Container(h.Entry.ID)
		out.Name, out.Address = c.Name, c.ID
	case "kit":
		for i := range v.shop.Kits {
			if k := &v.shop.Kits[i]; k.ID == h.Entry.ID {
				out.Name, out.Count = k.Name, len(k.Items)
			}
		}
	default:
		out.Name = ix.Station(h.Entry.ID).Name
	}
	return out
}

// drawn is an item as the round has it, among those that are owned or wished for.
func (v *view) drawn(id string) *round.Item {
	return v.inRound()[id]
}

// inWords says where a place is: its name, what it is in, and the wall.
func (v *view) inWords(p *shop.Place) string {
	words := []string{p.Name}
	ix := v.asIs.Map().Index
	chain, at := ix.Chain(&p.At)
	for _, c := range chain {
		words = append(words, c.Name)
	}
	switch {
	case at.Wall != "":
		words = append(words, "wall "+at.Wall)
	case at.Station != "":
		words = append(words, ix.Station(at.Station).Name)
	case at.Ceiling != nil:
		words = append(words, "under the ceiling")
	case at.Away:
		words = append(words, "not in the shop now")
	}
	// In a shop of several areas it is said which: the way there is longer than any other.
	if area := ix.Area(at.Area); area != nil && len(v.shop.Areas) > 1 && !at.Away && at.Station == "" {
		words = append(words, area.Called())
	}
	kept := words[:0]
	for _, w := range words {
		if w != "" {
			kept = append(kept, w)
		}
	}
	return strings.Join(kept, ", ")
}

// Found is one answer of a search.
type Found struct {
	ID      string   `json:"id"`
	Kind    string   `json:"kind" enum:"item,place,container,station,kit"`
	Name    string   `json:"name"`
	Address string   `json:"address" doc:"where it lives; empty without a home"`
	Where   string   `json:"where" doc:"the address in words"`
	Now     string   `json:"now" doc:"what the mode the floor is in makes of it: what must be rolled away, or that it cannot be reached; empty when nothing"`
	Going   string   `json:"going" doc:"where the plan that is carried out has it, or where it lies for a while; empty when it stays"`
	Sure    bool     `json:"sure" doc:"false when a slip was forgiven"`
	Count   int      `json:"count" doc:"how many there are of a thing"`
	Home    int      `json:"home" doc:"how many of them are in their homes now"`
	Out     []OutNow `json:"out" nullable:"false" doc:"those that are not: who has them, where, until when"`
	With    []Wanted `json:"with" nullable:"false" doc:"what is wanted whenever it is used"`
	SetUp   string   `json:"set_up" doc:"how it is set up; empty when nothing is said"`
	Open    []string `json:"open" nullable:"false" doc:"what must be opened to get at it, the outermost first"`
	Box     string   `json:"box" doc:"id of the portable box it is in; empty otherwise"`
	Caution string   `json:"caution" doc:"caution that goes with it; empty when there is none"`
	Photo   string   `json:"photo" doc:"name of its first photo; empty without one"`
}

func (s *Server) find(ctx context.Context, in *struct {
	Q     string `query:"q" maxLength:"200" doc:"a name, a family, a place or an address; slips are forgiven. @ before a station it is used at, # before a flag; assumed, homeless, wished and limbo are marks, too" example:"plane @bench #sharp"`
	Kind  string `query:"kind" enum:"item,place,container,station,kit" doc:"only these"`
	Limit int    `query:"limit" minimum:"1" maximum:"5000" default:"12" doc:"so many, best first"`
}) (*body[[]Found], error) {
	v, err := s.now()
	if err != nil {
		return nil, problem(err)
	}
	away, err := s.store.Outstanding(ctx)
	if err != nil {
		return nil, problem(err)
	}
	out := []Found{}
	query, only := outOnly(in.Q, away)
	may := func(e *find.Entry) bool { return (in.Kind == "" || e.Kind == in.Kind) && (only == nil || only[e.ID]) }
	hits := v.entries().Among(query, in.Limit, may)
	if only != nil && strings.TrimSpace(query) == "" {
		hits = v.entries().All(in.Limit, may)
	}
	for _, h := range hits {
		out = append(out, v.found(h))
	}
	v.isOut(out, away)
	return &body[[]Found]{out}, nil
}

// Wanted is what goes with a thing.
type Wanted struct {
	ID      string `json:"id"`
	Name    string `json:"name"`
	Address string `json:"address" doc:"empty without a home"`
	Out     bool   `json:"out" doc:"none of it is in its home"`
}

// outOnly takes the words out and lent from a query: only what is out, or lent, is wanted then, by id; nil when they are not asked for.
func outOnly(q string, away event.Log) (rest string, only map[string]bool) {
	var words []string
	for _, w := range strings.Fields(q) {
		switch k := strings.ToLower(w); k {
		case "out", "lent":
			if only == nil {
				only = map[string]bool{}
			}
			for i := range away {
				if k == "out" || away[i].What == event.Lent {
					only[away[i].Item] = true
				}
			}
		default:
			words = append(words, w)
		}
	}
	return strings.Join(words, " "), only
}

// isOut adds to answers what the events of the day say of them.
func (v *view) isOut(list []Found, out event.Log) {
	gone := map[string][]OutNow{}
	for i := range out {
		gone[out[i].Item] = append(gone[out[i].Item], v.outNow(&out[i]))
	}
	away := out.Out()
	ix := v.asIs.Map().Index
	for i := range list {
		f := &list[i]
		it := ix.Item(f.ID)
		if f.Kind != "item" || it == nil {
			continue
		}
		f.Out = append(f.Out, gone[f.ID]...)
		f.Home = max(0, f.Count-away[f.ID])
		for _, id := range it.With {
			if w := ix.Item(id); w != nil {
				x := Wanted{ID: id, Name: w.Name, Out: away[id] >= w.Number()}
				if homes := ix.Homes(id); len(homes) > 0 {
					x.Address = homes[0].Place
				}
				f.With = append(f.With, x)
			}
		}
	}
}

// outNow is an event by which something is out, in words.
func (v *view) outNow(e *event.Event) OutNow {
	x := OutNow{Event: *e, Name: e.Item}
	ix := v.asIs.Map().Index
	if it := ix.Item(e.Item); it != nil {
		x.Name, x.Caution = it.Name, daily.Caution(it)
		if homes := ix.Homes(it.ID); len(homes) > 0 {
			x.Home = homes[0].Place
		}
	}
	now := today()
	if day, err := time.Parse(time.DateOnly, e.Day()); err == nil {
		x.Days = int(now.Sub(day).Hours() / 24)
	}
	x.Overdue = e.Due != "" && e.Due < now.Format(time.DateOnly)
	return x
}

// moment is the shop in the mode its floor is in.
type moment struct {
	name string
	m    *access.Map // nil as it stands
	was  *shop.Shop
}

// momentOf a shop.
func momentOf(s *shop.Shop) *moment {
	out := &moment{was: s}
	m, err := s.Mode(s.Settings.Mode)
	if s.Settings.Mode == "" || err != nil {
		return out
	}
	then, err := s.InMode(m.ID)
	if err != nil {
		return out
	}
	if out.m, err = access.NewMap(then); err == nil {
		out.name = m.Name
	}
	return out
}

// of says what the mode makes of fetching an item from a place.
func (x *moment) of(item, place string) string {
	if x.m == nil {
		return ""
	}
	ix := x.m.Index
	it, p := ix.Item(item), ix.Place(place)
	n := x.m.PlaceNumber(place)
	if it == nil || p == nil || n < 0 {
		return ""
	}
	said := []string{}
	was := shop.NewIndex(x.was)
	for _, c := range chainOf(ix, p) {
		before := was.Container(c.ID)
		switch {
		case c.At.Away && !before.At.Away:
			return fmt.Sprintf("%s is not in the shop while it is %s", ix.Name(c.ID), x.name)
		case c.At.Floor != nil && before.At.Floor != nil && *c.At.Floor != *before.At.Floor:
			said = append(said, fmt.Sprintf("%s stands elsewhere while it is %s", ix.Name(c.ID), x.name))
		}
	}
	u := x.m.UseOf(it)
	homes := ix.Homes(item)
	for _, h := range homes {
		if h.Place != place {
			continue
		}
		g := keeping.GripOf(p, it, h)
		if _, ok := x.m.Weekly(&u, n, g, 0); !ok {
			return strings.Join(append(said, fmt.Sprintf("not reached while it is %s", x.name)), "; ")
		}
		if _, blockers := x.m.Band(&u, n, g); len(blockers) > 0 {
			names := []string{}
			for _, id := range blockers {
				names = append(names, ix.Name(id))
			}
			said = append(said, "roll "+strings.Join(names, " and ")+" out first")
		}
		break
	}
	return strings.Join(said, "; ")
}

func chainOf(ix *shop.Index, p *shop.Place) []*shop.Container {
	chain, _ := ix.Chain(&p.At)
	return chain
}
