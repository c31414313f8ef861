package api

import (
	"cmp"
	"slices"
	"strconv"

	"hobrak/internal/core/fit"
	"hobrak/internal/core/month"
	"hobrak/internal/core/round"
)

// Compared sets the shop as it stands beside a plan.
type Compared struct {
	Stations []Pair     `json:"stations" nullable:"false" doc:"seconds a week of what is used at each"`
	Orders   []Pair     `json:"orders" nullable:"false" doc:"pieces without a home, then of order 1 to 4"`
	Minded   Pair       `json:"minded" doc:"cautions"`
	Walked   Pair       `json:"walked" doc:"metres a week on foot"`
	Walking  Pair       `json:"walking" doc:"seconds a week that takes, part of the handling"`
	Fill     Pair       `json:"fill" doc:"mean share of their room that is taken, of the places in use"`
	InUse    Pair       `json:"in_use" doc:"places that hold something"`
	Roomy    Pair       `json:"roomy" doc:"of those, how many have their growth reserve"`
	Series   Pair       `json:"series" doc:"neighbours that the series in all places have"`
	InOrder  Pair       `json:"in_order" doc:"of those that stand side by side, in order of size or of what the place is in order of"`
	Sure     month.Sure `json:"sure" doc:"how sure the gain is, over months drawn at random"`
	Tight    int        `json:"tight" doc:"things of assumed size that would not fit if they were a quarter larger"`
	WasTight int        `json:"was_tight" doc:"of the same plan before those were moved that could be at no cost"`
	Paid     []Wished   `json:"paid" nullable:"false" doc:"what the plan pays for each wish"`
}

// Pair of figures.
type Pair struct {
	Name   string  `json:"name"`
	Before float64 `json:"before"`
	After  float64 `json:"after"`
}

// Wished is a wish with its price and what the plan pays for it, seconds a week.
type Wished struct {
	Name  string  `json:"name" enum:"together,dust,power,show,moving,reserve,wall,order"`
	Price float64 `json:"price"`
	Paid  float64 `json:"paid"`
}

// sum of the shop in the view.
func (v *view) sum() fit.Summary {
	v.mu.Lock()
	defer v.mu.Unlock()
	return v.asIs.Sum()
}

// inOrder counts the neighbours of series, and those that stand side by side.
func (v *view) inOrder() (pairs, beside float64) {
	v.mu.Lock()
	defer v.mu.Unlock()
	p, b := v.asIs.InOrder()
	return float64(p), float64(b)
}

// orderly is the share of the neighbours of series that stand side by side.
func (v *view) orderly() float64 {
	v.mu.Lock()
	defer v.mu.Unlock()
	return v.asIs.Orderly()
}

// compared sums both shops up by station, order and cautions.
func (r *run) compared(old, planned *view) Compared {
	out := Compared{Stations: []Pair{}, Orders: []Pair{}, Paid: []Wished{}}
	sum := func(v *view) (by map[string]float64, orders [5]float64) {
		by = map[string]float64{}
		for i := range v.round.Items {
			it := &v.round.Items[i]
			orders[it.Order] += float64(it.Count)
			for _, s := range it.UsedAt {
				by[s] += it.Seconds / float64(len(it.UsedAt))
			}
		}
		return by, orders
	}
	before, ordersBefore := sum(old)
	after, ordersAfter := sum(planned)
	for i := range r.shop.Stations {
		st := &r.shop.Stations[i]
		if before[st.ID]+after[st.ID] > 0 {
			out.Stations = append(out.Stations, Pair{st.Name, before[st.ID], after[st.ID]})
		}
	}
	slices.SortStableFunc(out.Stations, func(a, b Pair) int { return cmp.Compare(b.Before-b.After, a.Before-a.After) })
	for i := range ordersBefore {
		out.Orders = append(out.Orders, Pair{strconv.Itoa(i), ordersBefore[i], ordersAfter[i]})
	}
	out.Minded = Pair{"cautions", float64(len(old.findings())), float64(len(planned.findings()))}
	was := map[string]*round.Item{}
	for i := range old.round.Items {
		was[old.round.Items[i].ID] = &old.round.Items[i]
	}
	out.Sure = month.HowSure(sureness(old, planned, was), 400, 1)
	out.Tight, out.WasTight = r.plan.Order.Tight, r.plan.Order.WasTight
	w, p := r.wishes, r.plan.Paid
	out.Paid = append(out.Paid, Wished{"together", w.Together, p.Together}, Wished{"dust", w.Dust, p.Dust}, Wished{"power", w.Power, p.Power}, Wished{"show", w.Show, p.Show},
		Wished{"moving", w.Moving, p.Moving}, Wished{"reserve", w.Reserve, p.Reserve}, Wished{"wall", w.Wall, p.Wall}, Wished{"order", w.Order, p.Order})
	out.Series.Name, out.InOrder.Name = "series", "in order"
	out.Series.Before, out.InOrder.Before = old.inOrder()
	out.Series.After, out.InOrder.After = planned.inOrder()
	a, b := old.sum(), planned.sum()
	out.Walked = Pair{"walked", a.Walked, b.Walked}
	out.Walking = Pair{"walking", a.Walking, b.Walking}
	out.Fill = Pair{"fill", a.Fill, b.Fill}
	out.InUse = Pair{"in use", float64(a.InUse), float64(b.InUse)}
	out.Roomy = Pair{"roomy", float64(a.Roomy), float64(b.Roomy)}
	return out
}

// usualGrowth is the share of the things that come in a year, where no reserve is said (estimate).
const usualGrowth = .1

// sureness is what the gain of a plan hangs on. What stays where it is has shown that it fits there.
func sureness(old, planned *view, was map[string]*round.Item) (uses []month.Use) {
	growth := cmp.Or(planned.shop.Settings.GrowthReserve, usualGrowth)
	now := map[string]float64{}
	for _, r := range old.risks() {
		now[r.Item] = r.Another
	}
	then := map[string]*fit.Risk{}
	for i, r := range planned.risks() {
		then[r.Item] = &planned.risks()[i]
	}
	for i := range planned.round.Items {
		it := &planned.round.Items[i]
		w, r := was[it.ID], then[it.ID]
		if w == nil || r == nil {
			continue
		}
		u := month.Use{Guessed: r.Guessed, Comes: growth, Room: now[it.ID] - r.Another}
		if it.Uses > 0 {
			u.Rate, u.Saves = it.Uses, (w.Seconds-it.Seconds)/it.Uses
		}
		if !samePieces(w, it) {
			u.Larger = r.Larger
		}
		uses = append(uses, u)
	}
	return uses
}
