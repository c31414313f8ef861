// Package wood is the stock of boards, sheets, billets and offcuts: how much there is and where, what has to be lifted off to get a piece,
// which piece serves a part, which may go, where a delivery would lie, how many clamps a glue-up asks for. Lengths are mm as floats, areas
// m², volumes m³, weights kg, money in the shop's own.
package wood

import (
	"cmp"
	"math"
	"slices"
	"time"

	"hobrak/internal/core/fit"
	"hobrak/internal/core/load"
	"hobrak/internal/core/shop"
)

// Forms of wood.
const (
	Board    = "board"
	Sheet    = "sheet"
	Billet   = "billet"
	Moulding = "moulding"
	Veneer   = "veneer"
	Offcut   = "offcut"
)

// boardFoot is a board 1 inch thick, 12 wide and 12 long, m³.
const boardFoot = .0254 * .3048 * .3048

// Sides of a thing from the longest to the shortest, mm: its length, width and thickness as wood has them.
func Sides(it *shop.Item) (l, w, t float64) {
	s := []float64{it.W.MM(), it.H.MM(), it.D.MM()}
	slices.Sort(s)
	return s[2], s[1], s[0]
}

// Piece of wood, or several alike.
type Piece struct {
	Item     string   `json:"item"`
	Name     string   `json:"name"`
	Of       string   `json:"of" doc:"kind of wood; empty when it is not known"`
	Called   string   `json:"called" doc:"the same in words"`
	Form     string   `json:"form"`
	L        float64  `json:"l" doc:"mm"`
	W        float64  `json:"w" doc:"mm"`
	T        float64  `json:"t" doc:"mm"`
	Across   bool     `json:"across" doc:"the grain runs across its length"`
	About    bool     `json:"about" doc:"its size is a guess"`
	Count    int      `json:"count"`
	KG       float64  `json:"kg" doc:"of one; by the density of its wood where it was not weighed"`
	Weighed  bool     `json:"weighed"`
	M3       float64  `json:"m3" doc:"of all of them"`
	Feet     float64  `json:"feet" doc:"board feet of all of them; 0 of sheets"`
	M2       float64  `json:"m2" doc:"of all of them, of one face"`
	Price    float64  `json:"price" doc:"of one; 0 when it is not known"`
	Place    string   `json:"place" doc:"where it lies; empty when nowhere that is known"`
	Area     string   `json:"area" doc:"name of the area, when it is not the workroom"`
	Level    int      `json:"level" doc:"of a rack, from below, the lowest 0"`
	Lift     []string `json:"lift" nullable:"false" doc:"names of what has to be lifted off first"`
	Promised string   `json:"promised"`
	GoesTo   string   `json:"goes_to"`
	Came     string   `json:"came"`
	Flaws    string   `json:"flaws"`
	Source   string   `json:"source"`
	Salvaged bool     `json:"salvaged"`
	Review   string   `json:"review" doc:"day on which it is decided on, or on which it is collected when it goes"`
	Moisture float64  `json:"moisture"`
	Cautions []string `json:"cautions" nullable:"false"`
}

// kinds of wood whose dust is known to irritate, with what (HSE, Toxic woods, WIS30).
var irritates = map[string]string{
	"beech": "its dust may cause cancer of the nose", "red-oak": "its dust may cause cancer of the nose and asthma", "white-oak": "its dust may cause cancer of the nose and asthma",
	"redcedar": "its dust causes asthma", "walnut": "its dust irritates skin and eyes", "larch": "its dust irritates skin", "mdf": "its dust is very fine and holds a resin",
}

// Called is a kind of wood in words.
func Called(of string) string {
	if w, err := load.WoodByID(of); err == nil {
		return w.Name
	}
	return "wood that is not known"
}

// density of a kind of wood, kg/m³; a usual one when it is not known (an estimate).
func density(of string) float64 {
	if w, err := load.WoodByID(of); err == nil {
		return w.Density
	}
	return 600
}

// PieceOf is a thing as a piece of wood; nil when it is none.
func PieceOf(it *shop.Item) *Piece {
	if it.Wood == nil {
		return nil
	}
	l, w, t := Sides(it)
	n := float64(it.Number())
	p := &Piece{Item: it.ID, Name: it.Name, Of: it.Wood.Of, Called: Called(it.Wood.Of), Form: it.Wood.Form, L: l, W: w, T: t, Across: it.Wood.Across, About: it.Wood.About, Count: it.Number(), KG: it.KG.KG(), Weighed: it.KG > 0 && !slices.Contains(it.Assumed, "kg"),
		M3: n * l * w * t / 1e9, M2: n * l * w / 1e6, Price: it.Wood.Price, Level: -1, Lift: []string{}, Promised: it.PromisedTo, GoesTo: it.GoesTo, Came: it.Wood.Came, Flaws: it.Wood.Flaws, Source: it.Wood.Source, Salvaged: it.Wood.Salvaged, Review: it.Review, Moisture: it.Wood.Moisture, Cautions: []string{}}
	if p.KG == 0 {
		p.KG = l * w * t / 1e9 * density(p.Of)
	}
	if p.Form != Sheet && p.Form != Veneer {
		p.Feet = p.M3 / boardFoot
	}
	if says := irritates[p.Of]; says != "" {
		p.Cautions = append(p.Cautions, says+": extraction and a mask that fits")
	}
	if it.Wood.Salvaged {
		p.Cautions = append(p.Cautions, "look for nails and screws with a detector before it meets a blade")
	}
	return p
}

// Total of a kind of wood.
type Total struct {
	Of     string  `json:"of"`
	Called string  `json:"called"`
	Pieces int     `json:"pieces"`
	M3     float64 `json:"m3"`
	Feet   float64 `json:"feet"`
	M2     float64 `json:"m2" doc:"of sheets"`
	KG     float64 `json:"kg"`
	Money  float64 `json:"money" doc:"as far as prices are known"`
}

// Rack that holds wood.
type Rack struct {
	Place  string   `json:"place"`
	Name   string   `json:"name"`
	Kind   string   `json:"kind"`
	M3     float64  `json:"m3"`
	KG     float64  `json:"kg"`
	Rated  float64  `json:"rated" doc:"kg it may carry; 0 when that is not known"`
	Wall   float64  `json:"wall" doc:"m² of wall it takes"`
	Floor  float64  `json:"floor" doc:"m² of floor it takes"`
	Way    float64  `json:"way" doc:"m² of floor that must be free to get a piece out: its length before it, or at its end"`
	Per    float64  `json:"per" doc:"m² of wall, floor and way for a m³ of wood; 0 when it is empty"`
	Guests []string `json:"guests" nullable:"false" doc:"names of what lies there and is no wood: it leaves when wood comes"`
}

// Stock is all the wood there is.
type Stock struct {
	Pieces    []Piece     `json:"pieces" nullable:"false"`
	Totals    []Total     `json:"totals" nullable:"false" doc:"by kind, the largest first"`
	Racks     []Rack      `json:"racks" nullable:"false"`
	M3        float64     `json:"m3"`
	KG        float64     `json:"kg"`
	Money     float64     `json:"money"`
	Cap       float64     `json:"cap" doc:"m³ that are wanted at most; 0 without a limit"`
	Over      []string    `json:"over" nullable:"false" doc:"names of the pieces over it: what has lain longest goes first"`
	Apart     []Scattered `json:"apart" nullable:"false" doc:"what lies in several spots and might lie together"`
	Elsewhere []Elsewhere `json:"elsewhere" nullable:"false" doc:"what lies outside the workroom, by area, the nearest first"`
	Says      []string    `json:"says" nullable:"false" doc:"cautions about how wood lies"`
}

// Scattered is a kind of wood that lies in several places.
type Scattered struct {
	Of     string   `json:"of"`
	Called string   `json:"called"`
	Form   string   `json:"form"`
	Places []string `json:"places" nullable:"false"`
	To     string   `json:"to" doc:"where most of it lies"`
}

// Of the shop, on a day.
func Of(s *shop.Shop, today time.Time) (*Stock, error) {
	out := &Stock{Pieces: []Piece{}, Totals: []Total{}, Racks: []Rack{}, Cap: s.Settings.WoodCap, Over: []string{}, Apart: []Scattered{}, Says: []string{}}
	h, err := fit.NewHands(s)
	if err != nil {
		return nil, err
	}
	held := map[string][]int{}
	for k, x := range h.All() {
		if x.Home.Place != "" {
			held[s.Items[x.Item].ID] = append(held[s.Items[x.Item].ID], k)
		}
	}
	ix := shop.NewIndex(s)
	totals := map[string]int{}
	for i := range s.Items {
		it := &s.Items[i]
		p := PieceOf(it)
		if p == nil || !it.Needs() {
			continue
		}
		p.Place = it.Lies
		for _, k := range held[it.ID] {
			x := h.Held(k)
			p.Place = x.Home.Place
			if q := ix.Place(p.Place); q != nil && q.Kind == "arms" {
				p.Level = x.Home.Level
			}
			for _, over := range h.Over(k) {
				if name := s.Items[h.Held(over).Item].Name; !slices.Contains(p.Lift, name) && name != it.Name {
					p.Lift = append(p.Lift, name)
				}
			}
		}
		out.Pieces = append(out.Pieces, *p)
		at, ok := totals[p.Of]
		if !ok {
			at = len(out.Totals)
			totals[p.Of] = at
			out.Totals = append(out.Totals, Total{Of: p.Of, Called: p.Called})
		}
		t := &out.Totals[at]
		n := float64(p.Count)
		t.Pieces += p.Count
		t.M3, t.Feet, t.KG, t.Money = t.M3+p.M3, t.Feet+p.Feet, t.KG+n*p.KG, t.Money+n*p.Price
		if p.Form == Sheet || p.Form == Veneer {
			t.M2 += p.M2
		}
		out.M3, out.KG, out.Money = out.M3+p.M3, out.KG+n*p.KG, out.Money+n*p.Price
	}
	slices.SortStableFunc(out.Totals, func(a, b Total) int { return cmp.Compare(b.M3, a.M3) })
	out.over()
	out.apart()
	out.racks(s)
	out.elsewhere(s)
	out.onEnd(s, today)
	return out, nil
}

// over are the pieces beyond the limit: what came first goes first, and nothing that is promised.
func (st *Stock) over() {
	if st.Cap == 0 || st.M3 <= st.Cap {
		return
	}
	order := slices.Clone(st.Pieces)
	slices.SortStableFunc(order, func(a, b Piece) int { return cmp.Or(cmp.Compare(a.Came, b.Came), cmp.Compare(a.L, b.L)) })
	left := st.M3
	for _, p := range order {
		if left <= st.Cap {
			return
		}
		if p.Promised == "" {
			st.Over = append(st.Over, p.Name)
			left -= p.M3
		}
	}
}

// apart finds kinds that lie in several places.
func (st *Stock) apart() {
	type key struct{ of, form string }
	at := map[key]map[string]float64{}
	var order []key
	for _, p := range st.Pieces {
		if p.Place == "" || p.Of == "" {
			continue
		}
		k := key{p.Of, p.Form}
		if at[k] == nil {
			at[k] = map[string]float64{}
			order = append(order, k)
		}
		at[k][p.Place] += p.M3
	}
	for _, k := range order {
		if len(at[k]) < 2 {
			continue
		}
		x := Scattered{Of: k.of, Called: Called(k.of), Form: k.form}
		for place := range at[k] {
			x.Places = append(x.Places, place)
		}
		slices.Sort(x.Places)
		x.To = slices.MaxFunc(x.Places, func(a, b string) int { return cmp.Compare(at[k][a], at[k][b]) })
		st.Apart = append(st.Apart, x)
	}
}

// racks finds the places wood lies in, and what they cost in room.
func (st *Stock) racks(s *shop.Shop) {
	ix := shop.NewIndex(s)
	for i := range s.Places {
		p := &s.Places[i]
		if p.Kind != "arms" && p.Kind != "sheet-bay" && p.Kind != "bin" {
			continue
		}
		r := Rack{Place: p.ID, Name: p.Name, Kind: string(p.Kind), Rated: p.Capacity.KG(), Guests: []string{}}
		wooden := 0
		longest := 0.0
		for _, x := range ix.LivesIn(func(q *shop.Place) bool { return q.ID == p.ID }) {
			w := PieceOf(x.Item)
			if w == nil {
				r.Guests = append(r.Guests, x.Item.Name)
				r.KG += x.Item.KG.KG() * float64(x.N)
				continue
			}
			wooden++
			r.M3 += w.L * w.W * w.T / 1e9 * float64(x.N)
			r.KG += w.KG * float64(x.N)
			longest = max(longest, w.L)
		}
		if wooden == 0 && (p.Kind == "bin" || len(r.Guests) > 0 && p.Kind != "arms") {
			continue
		}
		_, root := ix.Chain(&p.At)
		if root.Wall != "" {
			r.Wall = p.W.MM() * p.H.MM() / 1e6
		} else {
			r.Floor = p.W.MM() * p.D.MM() / 1e6
		}
		// Boards come off arms to the front, sheets out of a bay along their length.
		switch p.Kind {
		case "arms":
			r.Way = max(longest, p.W.MM()) * 600 / 1e6
		case "sheet-bay":
			r.Way = p.W.MM() * max(longest, p.D.MM()) / 1e6
		}
		if r.M3 > 0 {
			r.Per = (r.Wall + r.Floor + r.Way) / r.M3
		}
		if wooden == 0 {
			r.Guests = []string{} // it may be no wood's at all
		}
		st.Racks = append(st.Racks, r)
		if r.Rated > 0 && r.KG > r.Rated {
			st.Says = append(st.Says, r.Place+" carries more than it is rated for: take some of it down first")
		}
	}
	slices.SortStableFunc(st.Racks, func(a, b Rack) int { return cmp.Compare(b.M3, a.M3) })
}

// bowing is how slender a board must be to bend by itself when it stands on end (an estimate): length by thickness.
const bowing = 60.0

// weeksOnEnd are so many after which a slender board that stands has bent (an estimate).
const weeksOnEnd = 8

// onEnd warns of boards that stand and bend, and of sheets that lean.
func (st *Stock) onEnd(s *shop.Shop, today time.Time) {
	ix := shop.NewIndex(s)
	child := slices.ContainsFunc(s.Settings.People, func(p shop.Person) bool { return p.Child })
	for i := range st.Pieces {
		p := &st.Pieces[i]
		pl := ix.Place(p.Place)
		if pl == nil {
			continue
		}
		stands := pl.Kind == "bin" || pl.Kind == "sheet-bay" && p.Form != Sheet
		if stands && p.L > 900 && p.L/max(1, p.T) > bowing {
			weeks := "it will bend in weeks"
			if came, err := time.Parse(time.DateOnly, p.Came); err == nil && today.Sub(came).Hours() > weeksOnEnd*7*24 {
				weeks = "it has stood for weeks: sight along it before you count on it"
			}
			p.Cautions = append(p.Cautions, "so thin and long it bends on end: lay it flat; "+weeks)
		}
		if p.Form == Sheet && p.L > 1000 && pl.Kind != "sheet-bay" {
			says := "sheets that lean fall: at 10 to 15 degrees, tied by a strap, the largest at the back"
			if child {
				says += "; children must not be able to pull at them"
			}
			p.Cautions = append(p.Cautions, says)
		}
		if p.Level > 0 && p.KG > 15 || p.L > 3000 && p.Level >= 0 {
			p.Cautions = append(p.Cautions, "long or heavy from overhead: two people, and the way it swings through clear")
		}
		if p.Moisture > 20 {
			p.Cautions = append(p.Cautions, "wet: stickered, away from a heater, and weighed again before it is used")
		}
	}
}

// Days since a day; -1 when it is not known.
func days(day string, today time.Time) int {
	d, err := time.Parse(time.DateOnly, day)
	if err != nil {
		return -1
	}
	return int(math.Round(today.Sub(d).Hours() / 24))
}
