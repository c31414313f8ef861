package api

import (
	"cmp"
	"context"
	"errors"
	"fmt"
	"net/http"
	"slices"
	"strings"
	"sync"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"hobrak/internal/core/cutting"
	"hobrak/internal/core/event"
	"hobrak/internal/core/length"
	"hobrak/internal/core/load"
	"hobrak/internal/core/sheet"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/wood"
	"hobrak/internal/store"
)

// The routes of wood: what there is, which piece serves, what may go, where a delivery lies, how parts are cut.

func (s *Server) woodRoutes() {
	huma.Register(s.api, described(huma.Operation{OperationID: "wood", Method: http.MethodGet, Path: "/api/v1/wood", Summary: "The wood there is, on its racks"}), s.wood)
	huma.Register(s.api, described(huma.Operation{OperationID: "add-wood", Method: http.MethodPost, Path: "/api/v1/wood", Summary: "Take wood into stock as typed, a line each", MaxBodyBytes: smallBody}), s.addWood)
	huma.Register(s.api, described(huma.Operation{OperationID: "set-wood", Method: http.MethodPatch, Path: "/api/v1/wood/{id}", Summary: "Say something of a piece of wood", MaxBodyBytes: smallBody}), s.setWood)
	huma.Register(s.api, described(huma.Operation{OperationID: "find-wood", Method: http.MethodPost, Path: "/api/v1/wood/find", Summary: "The pieces that serve a part", MaxBodyBytes: smallBody}), s.findWood)
	huma.Register(s.api, described(huma.Operation{OperationID: "delivery", Method: http.MethodPost, Path: "/api/v1/wood/delivery", Summary: "Where a delivery would lie, before it is bought", MaxBodyBytes: smallBody}), s.delivery)
	huma.Register(s.api, described(huma.Operation{OperationID: "glue-up", Method: http.MethodPost, Path: "/api/v1/wood/glue-up", Summary: "How many clamps a panel asks for, and how many there are", MaxBodyBytes: smallBody}), s.glueUp)
	huma.Register(s.api, described(huma.Operation{OperationID: "set-cut-lists", Method: http.MethodPut, Path: "/api/v1/wood/cut-lists", Summary: "Keep the lists of parts that are wanted", MaxBodyBytes: largeBody}), s.setCutLists)
	huma.Register(s.api, described(huma.Operation{OperationID: "plan-cuts", Method: http.MethodPost, Path: "/api/v1/wood/cuts", Summary: "How the parts of a list are cut from stock, and from what is bought", MaxBodyBytes: smallBody}), s.planCuts)
	huma.Register(s.api, described(huma.Operation{OperationID: "draw-cuts", Method: http.MethodGet, Path: "/api/v1/wood/cuts/{id}/drawing.{form}", Summary: "A plan of cuts on paper"}), s.drawCuts)
	huma.Register(s.api, described(huma.Operation{OperationID: "take-cuts", Method: http.MethodPost, Path: "/api/v1/wood/cuts/{id}/take", Summary: "It was cut: what was used is gone, offcuts come in", MaxBodyBytes: smallBody}), s.takeCuts)
}

// Wooden is the wood there is and what may go of it.
type Wooden struct {
	wood.Stock
	Letting []wood.Leave   `json:"letting" nullable:"false" doc:"what may go by the shop's rules, the largest first"`
	Bins    []wood.Bins    `json:"bins" nullable:"false" doc:"by station that cuts"`
	Schools []wood.Kept    `json:"schools" nullable:"false" doc:"ways to keep short wood, with what each costs; empty without any"`
	Lists   []shop.CutList `json:"lists" nullable:"false" doc:"parts that are wanted"`
	Kinds   []WoodKind     `json:"kinds" nullable:"false" doc:"woods that are known"`
	Useful  float64        `json:"useful" doc:"mm from which an offcut is kept"`
	Months  float64        `json:"months" doc:"after which untouched wood is looked at again"`
}

// WoodKind is a kind of wood that is known.
type WoodKind struct {
	ID      string  `json:"id"`
	Name    string  `json:"name"`
	Density float64 `json:"density" doc:"kg/m³"`
	E       float64 `json:"e" doc:"stiffness, GPa"`
}

func (s *Server) wood(ctx context.Context, _ *struct{}) (*body[Wooden], error) {
	sh, _ := s.store.Snapshot()
	now := today()
	st, err := wood.Of(sh, now)
	if err != nil {
		return nil, problem(err)
	}
	last, err := s.store.LastUsed(ctx)
	if err != nil {
		return nil, problem(err)
	}
	out := Wooden{Stock: *st, Letting: st.Letting(sh, last, now), Bins: wood.BinsAt(sh), Schools: append([]wood.Kept{}, st.Schools(sh)...), Lists: sh.Settings.CutLists, Kinds: []WoodKind{}, Useful: sh.Settings.UsefulLength().MM(), Months: sh.Settings.MonthsOfWood()}
	if out.Lists == nil {
		out.Lists = []shop.CutList{}
	}
	for _, w := range load.Woods {
		if w.ID != "stud" {
			out.Kinds = append(out.Kinds, WoodKind{w.ID, w.Name, w.Density, w.E})
		}
	}
	return &body[Wooden]{out}, nil
}

// readWood reads lines; the error names the line.
func readWood(sh *shop.Shop, lines []string) ([]wood.Reading, error) {
	out := []wood.Reading{}
	for i, line := range lines {
		if strings.TrimSpace(line) == "" {
			continue
		}
		r, err := wood.Read(sh, line)
		if err != nil {
			at := fmt.Sprintf("body.lines[%d]", i)
			return nil, huma.Error422UnprocessableEntity(fmt.Sprintf("line %d: %v", i+1, err), &huma.ErrorDetail{Location: at, Message: err.Error(), Value: line})
		}
		out = append(out, *r)
	}
	if len(out) == 0 {
		return nil, huma.Error422UnprocessableEntity("say what: 8 oak 2600x180x30", &huma.ErrorDetail{Location: "body.lines", Message: "nothing is said"})
	}
	return out, nil
}

// WoodLines as typed.
type WoodLines struct {
	Lines []string `json:"lines" minItems:"1" maxItems:"200"`
}

// WoodAdded is what lines came to.
type WoodAdded struct {
	Revision store.Revision `json:"revision"`
	Read     []wood.Reading `json:"read" nullable:"false"`
	Homeless int            `json:"homeless" doc:"so many lines found no rack with room"`
}

func (s *Server) addWood(ctx context.Context, in *struct {
	Match
	Body WoodLines
}) (*body[WoodAdded], error) {
	sh, _ := s.store.Snapshot()
	list, err := readWood(sh, in.Body.Lines)
	if err != nil {
		return nil, err
	}
	out := WoodAdded{Read: list}
	day := today().Format(time.DateOnly)
	out.Revision, err = s.store.Change(ctx, in.rev, who, "wood in: "+in.Body.Lines[0], func(sh *shop.Shop) error {
		st, err := wood.Of(sh, today())
		if err != nil {
			return err
		}
		d, then, err := wood.Deliver(sh, st, list, day)
		if err != nil {
			return err
		}
		for _, a := range d.Arrivals {
			if a.Place == "" {
				out.Homeless++
			}
		}
		sh.Items, sh.Homes = then.Items, then.Homes
		return nil
	})
	if err != nil {
		return nil, problem(err)
	}
	return &body[WoodAdded]{out}, nil
}

func (s *Server) setWood(ctx context.Context, in *struct {
	Match
	ID   string `path:"id"`
	Body struct {
		Of       *string  `json:"of,omitempty" maxLength:"40" doc:"id of a wood that is known; empty when it is not known"`
		Form     *string  `json:"form,omitempty" enum:"board,sheet,billet,moulding,veneer,offcut"`
		Flaws    *string  `json:"flaws,omitempty" maxLength:"300"`
		Moisture *float64 `json:"moisture,omitempty" minimum:"0" maximum:"200"`
		Came     *string  `json:"came,omitempty" maxLength:"10"`
		Source   *string  `json:"source,omitempty" maxLength:"200"`
		Price    *float64 `json:"price,omitempty" minimum:"0" maximum:"1000000"`
		Salvaged *bool    `json:"salvaged,omitempty"`
		Across   *bool    `json:"across,omitempty"`
		Promised *string  `json:"promised,omitempty" maxLength:"100" doc:"project; empty for none"`
		GoesTo   *string  `json:"goes_to,omitempty" maxLength:"100" doc:"who collects it, or where it goes; empty when it stays"`
		Review   *string  `json:"review,omitempty" maxLength:"10" doc:"day on which it is decided on, as 2027-05-31"`
		Gone     bool     `json:"gone,omitempty" doc:"it has left: stove, tip, given away"`
		None     bool     `json:"none,omitempty" doc:"it is no wood after all"`
	}
}) (*body[store.Revision], error) {
	b := &in.Body
	for where, day := range map[string]*string{"body.came": b.Came, "body.review": b.Review} {
		if day != nil {
			if err := dayOrNone(*day, where); err != nil {
				return nil, err
			}
		}
	}
	if b.Of != nil && *b.Of != "" {
		if _, err := load.WoodByID(*b.Of); err != nil {
			return nil, huma.Error422UnprocessableEntity(err.Error(), &huma.ErrorDetail{Location: "body.of", Message: err.Error(), Value: *b.Of})
		}
	}
	return revised(s.store.Change(ctx, in.rev, who, "wood: "+in.ID, func(sh *shop.Shop) error {
		k := slices.IndexFunc(sh.Items, func(it shop.Item) bool { return it.ID == in.ID })
		if k < 0 {
			return noItem(in.ID)
		}
		if b.Gone {
			sh.Items = slices.Delete(sh.Items, k, k+1)
			sh.Homes = slices.DeleteFunc(sh.Homes, func(h shop.Home) bool { return h.Item == in.ID })
			return nil
		}
		it := &sh.Items[k]
		if b.None {
			it.Wood = nil
			return nil
		}
		if it.Wood == nil {
			it.Wood = &shop.Wood{Form: wood.Board}
		}
		w := it.Wood
		set(&w.Of, b.Of)
		set(&w.Form, b.Form)
		set(&w.Flaws, b.Flaws)
		set(&w.Source, b.Source)
		set(&w.Came, b.Came)
		set(&w.Price, b.Price)
		set(&w.Salvaged, b.Salvaged)
		set(&w.Across, b.Across)
		set(&it.PromisedTo, b.Promised)
		set(&it.GoesTo, b.GoesTo)
		set(&it.Review, b.Review)
		if b.Moisture != nil {
			w.Moisture, w.Measured = *b.Moisture, today().Format(time.DateOnly)
		}
		return nil
	}))
}

// set what is said.
func set[T any](to *T, said *T) {
	if said != nil {
		*to = *said
	}
}

// readSize reads a size; the error names its field.
func readSize(sh *shop.Shop, text, where string) (l, w, t float64, err error) {
	if l, w, t, err = wood.Size(sh, text); err != nil {
		err = huma.Error422UnprocessableEntity(err.Error(), &huma.ErrorDetail{Location: where, Message: err.Error(), Value: text})
	}
	return l, w, t, err
}

func (s *Server) findWood(_ context.Context, in *struct {
	Body struct {
		Size string `json:"size" maxLength:"100" doc:"of the finished part as typed, as 640x90x20"`
		wood.Wish
	}
}) (*body[[]wood.Serves], error) {
	sh, _ := s.store.Snapshot()
	w := in.Body.Wish
	var err error
	if w.L, w.W, w.T, err = readSize(sh, in.Body.Size, "body.size"); err != nil {
		return nil, err
	}
	st, err := wood.Of(sh, today())
	if err != nil {
		return nil, problem(err)
	}
	out := st.Find(w)
	return &body[[]wood.Serves]{out[:min(len(out), 40)]}, nil
}

func (s *Server) delivery(_ context.Context, in *struct{ Body WoodLines }) (*body[wood.Delivery], error) {
	sh, _ := s.store.Snapshot()
	list, err := readWood(sh, in.Body.Lines)
	if err != nil {
		return nil, err
	}
	st, err := wood.Of(sh, today())
	if err != nil {
		return nil, problem(err)
	}
	d, then, err := wood.Deliver(sh, st, list, today().Format(time.DateOnly))
	if err != nil {
		return nil, problem(err)
	}
	if !d.Fits {
		v, err := s.now()
		if err != nil {
			return nil, problem(err)
		}
		var left []*shop.Item
		for i, a := range d.Arrivals {
			if a.Place == "" {
				left = append(left, &then.Items[len(sh.Items)+i])
			}
		}
		d.Racks = wood.Racks(v.asIs.Map(), v.freeSpace(), left)
	}
	return &body[wood.Delivery]{*d}, nil
}

func (s *Server) glueUp(_ context.Context, in *struct {
	Body struct {
		Size  string `json:"size" maxLength:"100" doc:"of the panel as typed: along the joints x across them x thickness"`
		Strip string `json:"strip,omitempty" maxLength:"40" doc:"width of the outermost strip with its caul, as typed"`
		Of    string `json:"of,omitempty" maxLength:"40"`
	}
}) (*body[wood.Clamping], error) {
	sh, _ := s.store.Snapshot()
	g := wood.Glue{Of: in.Body.Of}
	var err error
	if g.L, g.W, g.T, err = readSize(sh, in.Body.Size, "body.size"); err != nil {
		return nil, err
	}
	if text := strings.TrimSpace(in.Body.Strip); text != "" {
		x, err := length.Parse(text, sh.Settings.Units)
		if err != nil {
			return nil, huma.Error422UnprocessableEntity(err.Error(), &huma.ErrorDetail{Location: "body.strip", Message: err.Error(), Value: text})
		}
		g.Outer = x.MM()
	}
	return &body[wood.Clamping]{wood.Clamps(sh, g)}, nil
}

func (s *Server) setCutLists(ctx context.Context, in *struct {
	Match
	Body struct {
		Lists []shop.CutList `json:"lists" maxItems:"100"`
	}
}) (*body[store.Revision], error) {
	return revised(s.store.Change(ctx, in.rev, who, "cut lists", func(sh *shop.Shop) error {
		sh.Settings.CutLists = in.Body.Lists
		return nil
	}))
}

// Cuts is a plan with what it was made for.
type Cuts struct {
	ID     int64             `json:"id"`
	Name   string            `json:"name"`
	Goal   string            `json:"goal" enum:"least-waste,fewest-cuts,fewest-new,small-first"`
	Plan   cutting.Plan      `json:"plan"`
	Called map[string]string `json:"called" doc:"names of the pieces of stock"`
	Buy    []string          `json:"buy" nullable:"false" doc:"what is bought for it, with how many"`
	Says   []string          `json:"says" nullable:"false"`
	New    int               `json:"new" doc:"pieces that are bought"`
	Money  float64           `json:"money" doc:"what that costs, as far as prices are known"`
	Fetch  []wood.Fetched    `json:"fetch" nullable:"false" doc:"what of it is got where, the farthest first"`
	Heavy  []wood.Handled    `json:"heavy" nullable:"false" doc:"what is too heavy for one person until it is cut smaller"`
}

// cutPlans that were made since the start: a plan that was not taken is made again at the press of a button.
type cutPlans struct {
	mu    sync.Mutex
	next  int64
	plans map[int64]*keptCuts
}

type keptCuts struct {
	Cuts
	stock map[string]cutting.Stock
}

// mostCutPlans are kept.
const mostCutPlans = 30

// CutAsked is what cuts are looked for, and by what.
type CutAsked struct {
	Name    string   `json:"name,omitempty" maxLength:"100" doc:"what is built"`
	Parts   []string `json:"parts" minItems:"1" maxItems:"300"`
	Buy     []string `json:"buy,omitempty" maxItems:"30"`
	Kerf    float64  `json:"kerf,omitempty" minimum:"0" maximum:"20" doc:"mm"`
	Trim    float64  `json:"trim,omitempty" minimum:"0" maximum:"100" doc:"mm off each edge first"`
	Plane   float64  `json:"plane,omitempty" minimum:"0" maximum:"30" doc:"so much thicker stock may be, planed down, mm"`
	Extra   float64  `json:"extra,omitempty" minimum:"0" maximum:"100" doc:"added to the length and width of each part, mm"`
	Goal    string   `json:"goal,omitempty" enum:"least-waste,fewest-cuts,fewest-new,small-first"`
	Compare bool     `json:"compare,omitempty" doc:"looks by every goal, the one that was asked first"`
	Seconds float64  `json:"seconds,omitempty" minimum:"0" maximum:"30" doc:"for each goal"`
}

// listRead are the lines of a list of cuts, understood.
type listRead struct {
	parts  []cutting.Part
	stock  []cutting.Stock
	called map[string]string // names of the stock
	prices map[string]float64
	wood   *wood.Stock
}

// readCuts takes the lines of a list of cuts.
func readCuts(sh *shop.Shop, b *CutAsked) (*listRead, error) {
	x := &listRead{called: map[string]string{}, prices: map[string]float64{}}
	for i, line := range b.Parts {
		if strings.TrimSpace(line) == "" {
			continue
		}
		p, err := wood.ReadPart(sh, line)
		if err != nil {
			return nil, huma.Error422UnprocessableEntity(fmt.Sprintf("part %d: %v", i+1, err), &huma.ErrorDetail{Location: fmt.Sprintf("body.parts[%d]", i), Message: err.Error(), Value: line})
		}
		p.L, p.W = p.L+b.Extra, p.W+b.Extra
		for n := 2; slices.ContainsFunc(x.parts, func(x cutting.Part) bool { return x.Name == p.Name }); n++ {
			p.Name = fmt.Sprintf("%s %d", strings.TrimRight(p.Name, " 0123456789"), n)
		}
		x.parts = append(x.parts, p)
	}
	if len(x.parts) == 0 {
		return nil, huma.Error422UnprocessableEntity("say the parts, a line each: 2 sides 720x300x18 birch ply", &huma.ErrorDetail{Location: "body.parts", Message: "no part is said"})
	}
	var err error
	if x.wood, err = wood.Of(sh, today()); err != nil {
		return nil, problem(err)
	}
	x.stock = x.wood.ForCutting(x.parts, b.Plane, b.Name)
	for _, one := range x.stock {
		if p := slices.IndexFunc(x.wood.Pieces, func(p wood.Piece) bool { return p.Item == one.Name }); p >= 0 {
			x.called[one.Name] = x.wood.Pieces[p].Name
		}
	}
	for i, line := range b.Buy {
		if strings.TrimSpace(line) == "" {
			continue
		}
		r, err := wood.Read(sh, line)
		if err != nil {
			return nil, huma.Error422UnprocessableEntity(fmt.Sprintf("what may be bought, line %d: %v", i+1, err), &huma.ErrorDetail{Location: fmt.Sprintf("body.buy[%d]", i), Message: err.Error(), Value: line})
		}
		one := cutting.Stock{Name: fmt.Sprintf("buy %d", i+1), Count: -1, L: r.L, W: r.W, T: r.T, Material: r.Of, Price: r.Price}
		style := length.Style{System: sh.Settings.Units}
		x.called[one.Name] = fmt.Sprintf("bought: %s %s × %s × %s", r.Called, style.Typed(length.MM(r.L)), style.Typed(length.MM(r.W)), style.Typed(length.MM(r.T)))
		x.prices[one.Name] = r.Price
		for _, p := range x.parts { // bought as thick as is wanted, or planed
			if p.Material == one.Material && p.T <= one.T+.05 && one.T-p.T <= b.Plane+.05 {
				one.T = p.T
			}
		}
		x.stock = append(x.stock, one)
	}
	return x, nil
}

// cutsBy is a plan for a list by one goal.
func cutsBy(sh *shop.Shop, x *listRead, b *CutAsked, o cutting.Options) (*keptCuts, error) {
	out := &keptCuts{Cuts: Cuts{Name: b.Name, Goal: o.Goal, Called: x.called, Buy: []string{}, Says: []string{}}, stock: map[string]cutting.Stock{}}
	plan, err := cutting.Of(x.parts, x.stock, o)
	if err != nil {
		return nil, err
	}
	out.Plan = *plan
	bought := map[string]int{}
	for _, p := range plan.Pieces {
		if p.Bought {
			bought[p.Stock]++
			out.New++
			out.Money += x.prices[p.Stock]
		}
	}
	for _, one := range x.stock {
		out.stock[one.Name] = one
		if n := bought[one.Name]; n > 0 {
			out.Buy = append(out.Buy, fmt.Sprintf("%d × %s", n, strings.TrimPrefix(x.called[one.Name], "bought: ")))
		}
	}
	out.Heavy = wood.Handling(sh, plan, out.stock)
	out.Fetch = x.wood.Fetch(plan)
	for _, p := range x.wood.Pieces {
		for _, c := range plan.Pieces {
			if c.Stock == p.Item {
				for _, caution := range p.Cautions {
					if says := p.Called + ": " + caution; !slices.Contains(out.Says, says) {
						out.Says = append(out.Says, says)
					}
				}
			}
		}
	}
	return out, nil
}

func (s *Server) planCuts(ctx context.Context, in *struct{ Body CutAsked }) (*body[[]Cuts], error) {
	b := &in.Body
	sh, _ := s.store.Snapshot()
	read, err := readCuts(sh, b)
	if err != nil {
		return nil, err
	}
	goals := []string{cmp.Or(b.Goal, cutting.LeastWaste)}
	if b.Compare {
		for _, g := range cutting.Goals {
			if g != goals[0] {
				goals = append(goals, g)
			}
		}
	}
	seconds := cmp.Or(b.Seconds, 2) * float64(len(goals))
	began := time.Now()
	plans := make([]*keptCuts, len(goals))
	errs := make([]error, len(goals))
	var all sync.WaitGroup
	for i, goal := range goals {
		o := cutting.Options{Kerf: cmp.Or(b.Kerf, usualKerf), Trim: b.Trim, Goal: goal, Seed: 1, Stop: func() bool { return ctx.Err() != nil }, Spent: func() float64 { return time.Since(began).Seconds() / seconds }}
		all.Go(func() { plans[i], errs[i] = cutsBy(sh, read, b, o) })
	}
	all.Wait()
	if err := errors.Join(errs...); err != nil {
		err = errs[0] // all look at the same parts
		return nil, huma.Error422UnprocessableEntity(err.Error(), &huma.ErrorDetail{Location: "body.parts", Message: err.Error()})
	}
	s.cuts.mu.Lock()
	defer s.cuts.mu.Unlock()
	if s.cuts.plans == nil {
		s.cuts.plans = map[int64]*keptCuts{}
	}
	out := []Cuts{}
	for _, p := range plans {
		s.cuts.next++
		p.ID = s.cuts.next
		s.cuts.plans[p.ID] = p
		delete(s.cuts.plans, p.ID-mostCutPlans)
		out = append(out, p.Cuts)
	}
	return &body[[]Cuts]{out}, nil
}

// usualKerf is what the blade of a table saw takes, mm.
const usualKerf = 3.2

func (s *Server) keptPlan(id int64) (*keptCuts, error) {
	s.cuts.mu.Lock()
	defer s.cuts.mu.Unlock()
	if c := s.cuts.plans[id]; c != nil {
		return c, nil
	}
	return nil, huma.Error404NotFound("there is no such plan any more: make it again", &huma.ErrorDetail{Location: "path.id", Message: "there is no such plan", Value: id})
}

func (s *Server) drawCuts(_ context.Context, in *struct {
	ID    int64  `path:"id"`
	Form  string `path:"form" enum:"pdf,svg,png,dxf"`
	Page  int    `query:"page" minimum:"0" doc:"only this piece, from 1; all when left out"`
	Paper string `query:"paper" enum:"A4,A3,Letter,"`
}) (*paper, error) {
	c, err := s.keptPlan(in.ID)
	if err != nil {
		return nil, err
	}
	sh, _ := s.store.Snapshot()
	title := "Cuts"
	if c.Name != "" {
		title = c.Name + ": cuts"
	}
	pages := sheet.Cuts(&c.Plan, title, func(stock string) string { return c.Called[stock] }, paperOf(sh.Settings.Units, in.Paper), sh.Settings.Units)
	if len(pages) == 0 {
		return nil, huma.Error422UnprocessableEntity("nothing is cut in this plan: no stock is large enough for any of the parts")
	}
	if pages, err = pagesAsked(pages, "pieces", in.Page, in.Form); err != nil {
		return nil, err
	}
	return drawn(in.Form, title, "cuts", pages)
}

// Sawn is what became of a plan that was carried out.
type Sawn struct {
	Revision store.Revision `json:"revision"`
	Came     []wood.Came    `json:"came" nullable:"false" doc:"offcuts that are in stock now"`
}

func (s *Server) takeCuts(ctx context.Context, in *struct {
	Match
	ID int64 `path:"id"`
}) (*body[Sawn], error) {
	c, err := s.keptPlan(in.ID)
	if err != nil {
		return nil, err
	}
	out := Sawn{}
	used := map[string]int{}
	for _, x := range c.Plan.Pieces {
		if !x.Bought {
			used[x.Stock]++
		}
	}
	out.Revision, err = s.store.Change(ctx, in.rev, who, "cut: "+c.Name, func(sh *shop.Shop) error {
		var err error
		out.Came, err = wood.Take(sh, &c.Plan, c.stock, today().Format(time.DateOnly))
		if err != nil {
			return huma.Error409Conflict(err.Error())
		}
		return nil
	})
	if errors.Is(err, store.ErrNothing) {
		return nil, huma.Error409Conflict("nothing changes by it: all of it is bought and used up")
	}
	if err != nil {
		return nil, problem(err)
	}
	s.cuts.mu.Lock()
	delete(s.cuts.plans, in.ID) // it is cut once
	s.cuts.mu.Unlock()
	for id, n := range used {
		_, _ = s.store.Happened(ctx, event.Event{Who: who, What: event.Used, Item: id, N: n, Note: "cut"}) // the cut itself is booked
	}
	return &body[Sawn]{out}, nil
}
