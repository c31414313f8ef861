package api

import (
	"context"
	"fmt"
	"net/http"
	"slices"
	"strings"

	"github.com/danielgtaylor/huma/v2"

	"hobrak/internal/core/keeping"
	"hobrak/internal/core/length"
	"hobrak/internal/core/review"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/storage"
)

func (s *Server) storageRoutes() {
	huma.Register(s.api, described(huma.Operation{OperationID: "size-storage", Method: http.MethodPost, Path: "/api/v1/storage/size", Summary: "Storage of every kind sized for these things, what holds most of them first", MaxBodyBytes: largeBody}), s.sizeStorage)
	huma.Register(s.api, described(huma.Operation{OperationID: "where-storage", Method: http.MethodPost, Path: "/api/v1/storage/where", Summary: "Free walls that take it, best first by weekly handling", MaxBodyBytes: largeBody}), s.whereStorage)
	huma.Register(s.api, described(huma.Operation{OperationID: "install-storage", Method: http.MethodPost, Path: "/api/v1/storage", Summary: "Put it there; what it holds moves in", MaxBodyBytes: largeBody}), s.installStorage)
}

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
	Parts    []DesignPart   `json:"parts" nullable:"false" doc:"drawers and the like, each from its right side"`
}

// DesignPart is a part of a design with its layout.
type DesignPart struct {
	ID     string         `json:"id"`
	Layout storage.Layout `json:"layout"`
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
		if err == nil && (l <= 0 || l > shop.MostSide) {
			err = fmt.Errorf("%s should be more than 0 and at most %s", f.text, shop.MostSide)
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

func (s *Server) sizeStorage(_ context.Context, in *body[StorageWish]) (*body[[]Designed], error) {
	sh, _ := s.store.Shop()
	n, err := in.Body.need(sh)
	if err != nil {
		return nil, err
	}
	ix := shop.NewIndex(sh)
	out := []Designed{}
	for _, o := range storage.Offers("new", n) {
		d := designed(o.Builder, o.Design, ix.Item)
		if says := review.Regretted(sh, o.Builder.ID, o.Builder.Title); says != "" {
			d.Cautions = append(slices.Clone(d.Cautions), "you wrote once: "+says)
		}
		out = append(out, d)
	}
	return &body[[]Designed]{out}, nil
}

func (s *Server) whereStorage(_ context.Context, in *body[kindWished]) (*body[Whereabouts], error) {
	v, err := s.now()
	if err != nil {
		return nil, problem(err)
	}
	d, err := designOf(v.shop, &in.Body.StorageWish, in.Body.Kind, "new")
	if err != nil {
		return nil, err
	}
	found, err := storage.Where(v.asIs.Map(), v.freeSpace(), d)
	if err != nil {
		return nil, refusedStorage(err)
	}
	out := Whereabouts{Sites: []Whereabout{}, Nowhere: found.Nowhere, W: d.W.MM(), H: d.H.MM()}
	for _, c := range found.Sites {
		out.Sites = append(out.Sites, whereabout(c))
	}
	return &body[Whereabouts]{out}, nil
}

// whereabout of a site.
func whereabout(c storage.Site) Whereabout {
	w := Whereabout{Site: c, Rot: c.At.Rot}
	if c.At.Floor != nil {
		w.Floor = &[2]float64{c.At.Floor[0].MM(), c.At.Floor[1].MM()}
	}
	if c.At.Ceiling != nil {
		w.Ceiling = &[2]float64{c.At.Ceiling[0].MM(), c.At.Ceiling[1].MM()}
	}
	return w
}

func (s *Server) installStorage(ctx context.Context, in *struct {
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
		d, err := designOf(sh, &in.Body.StorageWish, in.Body.Kind, ids[0])
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
	return &body[Listed]{Listed{rev, ids, []string{}}}, nil
}

// kindWished is storage of one kind, wished for.
type kindWished struct {
	StorageWish
	Kind string `json:"kind" maxLength:"40"`
}

// designOf the storage that is wished for.
func designOf(sh *shop.Shop, w *StorageWish, kind, id string) (*storage.Design, error) {
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
