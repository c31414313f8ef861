package api

import (
	"cmp"
	"context"
	"fmt"
	"hobrak/internal/core/keeping"
	"maps"
	"net/http"
	"slices"
	"strings"

	"github.com/danielgtaylor/huma/v2"

	"hobrak/internal/core/check"
	"hobrak/internal/core/fit"
	"hobrak/internal/core/length"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/storage"
	"hobrak/internal/store"
)

// StorageKind is a kind of storage that can be made.
type StorageKind struct {
	ID    string `json:"id"`
	Title string `json:"title"`
	About string `json:"about"`
	Hung  bool   `json:"hung" doc:"on a wall; else it stands on the floor or hangs from the ceiling"`
}

// StorageWish is what storage must hold and how large it may be.
type StorageWish struct {
	Items   []string `json:"items" minItems:"1" maxItems:"2000"`
	Reserve float64  `json:"reserve" minimum:"0" maximum:"0.9" doc:"share to keep free"`
	Width   string   `json:"width,omitempty" maxLength:"40" doc:"at most, as typed; as usual when left out"`
	Height  string   `json:"height,omitempty" maxLength:"40"`
	Depth   string   `json:"depth,omitempty" maxLength:"40"`
}

// Designed is one way to keep what was wished.
type Designed struct {
	Kind     StorageKind    `json:"kind"`
	W        float64        `json:"w"`
	H        float64        `json:"h"`
	D        float64        `json:"d"`
	Holds    int            `json:"holds" doc:"things of those wished"`
	Pieces   int            `json:"pieces"`
	KG       float64        `json:"kg"`
	Fill     float64        `json:"fill"`
	Spare    string         `json:"spare"`
	Rules    []string       `json:"rules" nullable:"false"`
	Cautions []string       `json:"cautions" nullable:"false"`
	Left     []storage.Left `json:"left" nullable:"false"`
	Front    storage.Layout `json:"front"`
	rank     float64        // in the order in which kinds are offered
	Parts    []DesignPart   `json:"parts" nullable:"false" doc:"drawers and the like, each from its right side"`
}

// DesignPart is a part of a design with its layout.
type DesignPart struct {
	ID     string         `json:"id"`
	Layout storage.Layout `json:"layout"`
}

// Opened is a place seen from the side that shows what is in it, with what can
// be said of how it is made. Lengths are mm; 0 is not known.
type Opened struct {
	storage.Layout
	Hung   string  `json:"hung" doc:"what is screwed to the wall: the place or its container; empty when nothing is"`
	Screws int     `json:"screws" doc:"of what is hung, those that hit studs"`
	Screw  float64 `json:"screw" doc:"diameter"`
	Thread float64 `json:"thread"`
	Side   float64 `json:"side"`
	Lever  float64 `json:"lever"`
	Wood   string  `json:"wood" doc:"of a shelf or deck"`
	Thick  float64 `json:"thick"`
	Strip  float64 `json:"strip"`
	Arms   int     `json:"arms" doc:"of a rack, on each level"`
}

func opened(sh *shop.Shop, ix *shop.Index, p *shop.Place) Opened {
	out := Opened{Layout: storage.As(sh, ix, p), Arms: p.Arms}
	if b := p.Board; b != nil {
		out.Wood, out.Thick, out.Strip = b.Wood, b.T.MM(), b.Strip.MM()
	}
	f := p.Fixing
	if p.At.Wall != "" {
		out.Hung = p.ID
	} else if c := ix.Container(p.At.In); c != nil && c.At.Wall != "" && c.Kind != "door-back" {
		out.Hung, f = c.ID, c.Fixing
	}
	if f != nil {
		out.Screws, out.Screw, out.Thread, out.Side, out.Lever = f.Screws, f.D.MM(), f.Thread.MM(), f.Side.MM(), f.Lever.MM()
	}
	return out
}

// Checked is a finding of the check with the item or place it is about.
type Checked struct {
	check.Finding
	Kind string `json:"kind" enum:"item,place," doc:"what id names; empty when it is something else"`
	ID   string `json:"id"`
}

// about says of each finding what a person would look at.
func (v *view) about() []Checked {
	out := []Checked{}
	ix := v.asIs.Map().Index
	for _, f := range v.findings() {
		x := Checked{Finding: f}
		var n int
		if _, err := fmt.Sscanf(f.Where, "homes[%d]", &n); err == nil && n < len(v.shop.Homes) {
			x.Kind, x.ID = "item", v.shop.Homes[n].Item
		} else if ix.Place(f.Where) != nil {
			x.Kind, x.ID = "place", f.Where
		} else if i := slices.IndexFunc(v.shop.Places, func(p shop.Place) bool { return p.At.In == f.Where }); i >= 0 {
			x.Kind, x.ID = "place", v.shop.Places[i].ID
		}
		out = append(out, x)
	}
	return out
}

// Whereabouts are found spots and what bars the other walls.
type Whereabouts struct {
	Sites   []Whereabout      `json:"sites" nullable:"false"`
	Nowhere []storage.Nowhere `json:"nowhere" nullable:"false"`
	W       float64           `json:"w"`
	H       float64           `json:"h"`
}

// Whereabout is a spot where a design can go.
type Whereabout struct {
	storage.Site
	Floor   *[2]float64 `json:"floor,omitempty" doc:"of its footprint, when it stands"`
	Ceiling *[2]float64 `json:"ceiling,omitempty" doc:"of its footprint, when it hangs under the ceiling"`
	Rot     float64     `json:"rot"`
}

// Put says where something goes: on a wall at x and z, or on the floor.
type Put struct {
	Area  string      `json:"area,omitempty"`
	Wall  string      `json:"wall,omitempty"`
	X     float64     `json:"x,omitempty" minimum:"0" maximum:"50000"`
	Z     float64     `json:"z,omitempty" minimum:"0" maximum:"6000"`
	Floor *[2]float64 `json:"floor,omitempty"`
	// Station is the bench it goes under, at x from the left of its front.
	Station string `json:"station,omitempty"`
	// On is the place a box goes on, at x from its left, y from its front and z up a field.
	On string  `json:"on,omitempty"`
	Y  float64 `json:"y,omitempty" minimum:"0" maximum:"20000"`
	// Ceiling is the lower left corner of its footprint, its underside at z.
	Ceiling *[2]float64 `json:"ceiling,omitempty"`
	Rot     float64     `json:"rot,omitempty" minimum:"-360" maximum:"360"`
}

func (p *Put) at(sh *shop.Shop) shop.At {
	at := shop.At{Area: p.Area, Wall: p.Wall, X: length.MM(p.X), Z: length.MM(p.Z), Rot: p.Rot}
	if len(sh.Areas) > 0 && at.Area == sh.Areas[0].ID {
		at.Area = ""
	}
	if p.Floor != nil {
		at.Wall, at.X, at.Z = "", 0, 0
		at.Floor = &shop.Point{length.MM(p.Floor[0]), length.MM(p.Floor[1])}
	}
	if p.Station != "" {
		at = shop.At{Station: p.Station, X: length.MM(p.X)}
	}
	if p.On != "" {
		at = shop.At{In: p.On, X: length.MM(p.X), Y: length.MM(p.Y), Z: length.MM(p.Z)}
	}
	if p.Ceiling != nil {
		at.Wall, at.X = "", 0
		at.Ceiling = &shop.Point{length.MM(p.Ceiling[0]), length.MM(p.Ceiling[1])}
	}
	return at
}

// typed puts lengths as typed in the place of numbers; the error names the field.
func (p *Put) typed(sh *shop.Shop, texts map[string]string) error {
	for _, f := range slices.Sorted(maps.Keys(texts)) {
		l, err := length.Parse(texts[f], sh.Settings.Units)
		if err == nil && (l < 0 || l > 50*length.Metre) {
			err = fmt.Errorf("%s should be from 0 to 50 m", texts[f])
		}
		if err != nil {
			return huma.Error422UnprocessableEntity(err.Error(), &huma.ErrorDetail{Location: "body.typed." + f, Message: err.Error(), Value: texts[f]})
		}
		switch {
		case p.Floor != nil && f == "x":
			p.Floor[0] = l.MM()
		case p.Floor != nil && f == "y":
			p.Floor[1] = l.MM()
		case f == "x":
			p.X = l.MM()
		case f == "z":
			p.Z = l.MM()
		}
	}
	return nil
}

// need reads a wish; the error names the field.
func (w *StorageWish) need(sh *shop.Shop) (storage.Need, error) {
	n := storage.Need{Reserve: w.Reserve}
	ix := shop.NewIndex(sh)
	for i, id := range w.Items {
		it := ix.Item(id)
		if it == nil {
			return n, huma.Error422UnprocessableEntity(fmt.Sprintf("there is no item %q", id), &huma.ErrorDetail{Location: fmt.Sprintf("body.items[%d]", i), Value: id})
		}
		n.Items = append(n.Items, it)
	}
	for _, f := range []struct {
		name, text string
		to         *length.Length
	}{{"width", w.Width, &n.Width}, {"height", w.Height, &n.Height}, {"depth", w.Depth, &n.Depth}} {
		if strings.TrimSpace(f.text) == "" {
			continue
		}
		l, err := length.Parse(f.text, sh.Settings.Units)
		if err == nil && (l <= 0 || l > 20*length.Metre) {
			err = fmt.Errorf("%s should be more than 0 and at most 20 m", f.text)
		}
		if err != nil {
			return n, huma.Error422UnprocessableEntity(err.Error(), &huma.ErrorDetail{Location: "body." + f.name, Message: err.Error(), Value: f.text})
		}
		*f.to = l
	}
	return n, nil
}

func kindOf(b storage.Builder) StorageKind { return StorageKind{b.ID, b.Title, b.About, b.Hung} }

func designed(b storage.Builder, d *storage.Design, item func(string) *shop.Item) Designed {
	out := Designed{Kind: kindOf(b), W: d.W.MM(), H: d.H.MM(), D: d.D.MM(), KG: d.KG.KG(), Fill: d.Fill, Spare: d.Spare, Rules: d.Rules, Cautions: d.Cautions, Left: d.Left, Front: storage.Front(d, item), Parts: []DesignPart{}}
	seen := map[string]bool{}
	for i := range d.Homes {
		out.Pieces += d.Homes[i].Number(item(d.Homes[i].Item))
		if !seen[d.Homes[i].Item] {
			seen[d.Homes[i].Item] = true
			out.Holds++
		}
	}
	for i := range d.Places {
		if keeping.Of(&d.Places[i]).View() != keeping.FromFront {
			out.Parts = append(out.Parts, DesignPart{d.Places[i].ID, storage.Lay(&d.Places[i], d.Homes, item)})
		}
	}
	return out
}

func refusedStorage(err error) error {
	return huma.Error422UnprocessableEntity(err.Error(), &huma.ErrorDetail{Location: "body", Message: err.Error()})
}

func (s *Server) storages() {
	huma.Register(s.api, described(huma.Operation{OperationID: "size-storage", Method: http.MethodPost, Path: "/api/v1/storage/size", Summary: "Storage of every kind sized for these things, what holds most of them first", MaxBodyBytes: largeBody}),
		func(_ context.Context, in *body[StorageWish]) (*body[[]Designed], error) {
			sh, _ := s.store.Shop()
			n, err := in.Body.need(sh)
			if err != nil {
				return nil, err
			}
			ix := shop.NewIndex(sh)
			out := []Designed{}
			for _, b := range storage.Builders() {
				if !slices.ContainsFunc(n.Items, b.Suits) {
					continue
				}
				d, err := storage.Size(b.ID, "new", n)
				if err == nil && len(d.Homes) > 0 {
					x := designed(b, d, ix.Item)
					if x.rank = float64(x.Holds); b.Made() {
						x.rank *= 1.6
					}
					out = append(out, x)
				}
			}
			// What is made for such things goes before what would take a few more of them.
			slices.SortStableFunc(out, func(a, b Designed) int { return cmp.Compare(b.rank, a.rank) })
			return &body[[]Designed]{out}, nil
		})
	type asked struct {
		StorageWish
		Kind string `json:"kind" maxLength:"40"`
	}
	design := func(sh *shop.Shop, w *StorageWish, kind, id string) (*storage.Design, error) {
		n, err := w.need(sh)
		if err != nil {
			return nil, err
		}
		d, err := storage.Size(kind, id, n)
		if err != nil {
			return nil, refusedStorage(err)
		}
		if len(d.Homes) == 0 {
			return nil, refusedStorage(fmt.Errorf("the %s would hold none of these: %s", strings.ToLower(d.Title), d.Left[0].Why))
		}
		return d, nil
	}
	huma.Register(s.api, described(huma.Operation{OperationID: "where-storage", Method: http.MethodPost, Path: "/api/v1/storage/where", Summary: "Free walls that take it, best first by weekly handling", MaxBodyBytes: largeBody}),
		func(_ context.Context, in *body[asked]) (*body[Whereabouts], error) {
			v, err := s.now()
			if err != nil {
				return nil, problem(err)
			}
			d, err := design(v.shop, &in.Body.StorageWish, in.Body.Kind, "new")
			if err != nil {
				return nil, err
			}
			found, err := storage.Where(v.asIs.Map(), v.freeSpace(), d)
			if err != nil {
				return nil, refusedStorage(err)
			}
			out := Whereabouts{Sites: []Whereabout{}, Nowhere: found.Nowhere, W: d.W.MM(), H: d.H.MM()}
			for _, c := range found.Sites {
				w := Whereabout{Site: c, Rot: c.At.Rot}
				if c.At.Floor != nil {
					w.Floor = &[2]float64{c.At.Floor[0].MM(), c.At.Floor[1].MM()}
				}
				if c.At.Ceiling != nil {
					w.Ceiling = &[2]float64{c.At.Ceiling[0].MM(), c.At.Ceiling[1].MM()}
				}
				out.Sites = append(out.Sites, w)
			}
			return &body[Whereabouts]{out}, nil
		})
	huma.Register(s.api, described(huma.Operation{OperationID: "install-storage", Method: http.MethodPost, Path: "/api/v1/storage", Summary: "Put it there; what it holds moves in", MaxBodyBytes: largeBody}),
		func(ctx context.Context, in *struct {
			Match
			Body struct {
				StorageWish
				Kind string `json:"kind" maxLength:"40"`
				At   Put    `json:"at"`
			}
		}) (*body[Listed], error) {
			var ids []string // the address, then the places
			rev, err := s.store.Change(ctx, in.rev, who, "made: "+in.Body.Kind, func(sh *shop.Shop) error {
				at := in.Body.At.at(sh)
				ids = []string{storage.Address(sh, at)}
				d, err := design(sh, &in.Body.StorageWish, in.Body.Kind, ids[0])
				if err != nil {
					return err
				}
				for _, p := range d.Places {
					ids = append(ids, p.ID)
				}
				return storage.Install(sh, d, at)
			})
			if err != nil {
				return nil, problem(err)
			}
			return &body[Listed]{Listed{rev, ids}}, nil
		})
	type one struct {
		ID string `path:"id"`
	}
	huma.Register(s.api, described(huma.Operation{OperationID: "layout", Method: http.MethodGet, Path: "/api/v1/places/{id}/layout", Summary: "A place seen from the side that shows what is in it"}),
		func(_ context.Context, in *one) (*body[Opened], error) {
			sh, _ := s.store.Shop()
			ix := shop.NewIndex(sh)
			p := ix.Place(in.ID)
			if p == nil {
				return nil, huma.Error404NotFound(fmt.Sprintf("there is no place %q", in.ID), &huma.ErrorDetail{Location: "path.id", Value: in.ID})
			}
			return &body[Opened]{opened(sh, ix, p)}, nil
		})
	huma.Register(s.api, described(huma.Operation{OperationID: "worth", Method: http.MethodGet, Path: "/api/v1/places/{id}/worth", Summary: "How full a place is, and who gains most by living there"}),
		func(_ context.Context, in *struct {
			ID string `path:"id"`
		}) (*body[fit.Worth], error) {
			v, err := s.now()
			if err != nil {
				return nil, problem(err)
			}
			if shop.NewIndex(v.shop).Place(in.ID) == nil {
				return nil, huma.Error404NotFound(fmt.Sprintf("there is no place %q", in.ID), &huma.ErrorDetail{Location: "path.id", Value: in.ID})
			}
			v.mu.Lock()
			defer v.mu.Unlock()
			return &body[fit.Worth]{v.asIs.WorthOf(in.ID)}, nil
		})
	huma.Register(s.api, described(huma.Operation{OperationID: "try-storage", Method: http.MethodPost, Path: "/api/v1/places/{id}/try", Summary: "What moving a place or container there would do", MaxBodyBytes: smallBody}),
		func(_ context.Context, in *struct {
			ID   string `path:"id"`
			Body struct {
				At Put `json:"at"`
			}
		}) (*body[storage.Trial], error) {
			v, err := s.now()
			if err != nil {
				return nil, problem(err)
			}
			got, err := storage.Try(v.asIs.Map(), v.findings(), in.ID, in.Body.At.at(v.shop))
			if err != nil {
				return nil, refusedStorage(err)
			}
			return &body[storage.Trial]{*got}, nil
		})
	huma.Register(s.api, described(huma.Operation{OperationID: "check", Method: http.MethodGet, Path: "/api/v1/check", Summary: "Broken rules, then cautions, each with what it is about"}),
		func(_ context.Context, _ *struct{}) (*body[[]Checked], error) {
			v, err := s.now()
			if err != nil {
				return nil, problem(err)
			}
			return &body[[]Checked]{v.about()}, nil
		})
	huma.Register(s.api, described(huma.Operation{OperationID: "move-storage", Method: http.MethodPut, Path: "/api/v1/places/{id}/at", Summary: "Move a place or container; what is in it moves along", MaxBodyBytes: smallBody}),
		func(ctx context.Context, in *struct {
			Match
			ID   string `path:"id"`
			Body struct {
				At Put `json:"at"`
				// Typed are lengths as typed, in either system: x and z on a wall, x and y on the floor.
				Typed map[string]string `json:"typed,omitempty"`
			}
		}) (*body[store.Revision], error) {
			// What is dragged there is asked about first; what is typed says how it stands.
			if v, err := s.now(); err == nil && v.revision == in.rev && len(in.Body.Typed) == 0 {
				got, err := storage.Try(v.asIs.Map(), v.findings(), in.ID, in.Body.At.at(v.shop))
				if err != nil {
					return nil, refusedStorage(err)
				}
				if !got.Allowed {
					p := &huma.ErrorModel{Title: "Unprocessable Entity", Status: http.StatusUnprocessableEntity, Detail: fmt.Sprintf("%s stays where it is: %s.", in.ID, strings.Join(got.Broken, "; "))}
					for _, why := range got.Broken {
						p.Errors = append(p.Errors, &huma.ErrorDetail{Location: "body.at", Message: why})
					}
					return nil, p
				}
			}
			return revised(s.store.Change(ctx, in.rev, who, in.ID+" moved", func(sh *shop.Shop) error {
				if err := in.Body.At.typed(sh, in.Body.Typed); err != nil {
					return err
				}
				if err := storage.Move(sh, in.ID, in.Body.At.at(sh)); err != nil {
					return refusedStorage(err)
				}
				return nil
			}))
		})
	huma.Register(s.api, described(huma.Operation{OperationID: "set-storage", Method: http.MethodPatch, Path: "/api/v1/places/{id}", Summary: "Put what was typed into a field of a place or container", MaxBodyBytes: smallBody}),
		func(ctx context.Context, in *struct {
			Match
			ID   string `path:"id"`
			Body struct {
				Field string `json:"field" maxLength:"40"`
				Text  string `json:"text" maxLength:"200"`
			}
		}) (*body[store.Revision], error) {
			return revised(s.store.Change(ctx, in.rev, who, fmt.Sprintf("%s of %s: %s", in.Body.Field, in.ID, in.Body.Text), func(sh *shop.Shop) error {
				if err := storage.Set(sh, in.ID, in.Body.Field, in.Body.Text); err != nil {
					return huma.Error422UnprocessableEntity(err.Error(), &huma.ErrorDetail{Location: "body.text", Message: err.Error(), Value: in.Body.Text})
				}
				return nil
			}))
		})
	huma.Register(s.api, described(huma.Operation{OperationID: "remove-storage", Method: http.MethodDelete, Path: "/api/v1/places/{id}", Summary: "Take a place or container away; its things stay, without a home"}),
		func(ctx context.Context, in *struct {
			ID string `path:"id"`
			Match
		}) (*body[Listed], error) {
			var lost []string
			rev, err := s.store.Change(ctx, in.rev, who, in.ID+" taken away", func(sh *shop.Shop) (err error) {
				if lost, err = storage.Remove(sh, in.ID); err != nil {
					return refusedStorage(err)
				}
				return nil
			})
			if err != nil {
				return nil, problem(err)
			}
			return &body[Listed]{Listed{rev, notNil(lost)}}, nil
		})
}
