package calc

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"hobrak/internal/core/length"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/storage"
	"hobrak/internal/core/weight"
)

func init() { registry = slices.Concat(registry, storages) }

const layoutSource = "own layout: rows by first fit of decreasing height (Coffman, Garey, Johnson, Tarjan 1980), trays by corner placement with restarts; finger room, gaps and reserve are estimates of docs/rules"

var (
	thingsIn = Input{"things", "list", "", "count x width x height x depth in mm, several joined by semicolons, as 8x160x740x40;4x190x760x60"}
	reserve  = Input{"reserve", "number", "0.15", "share to keep free for growth"}
	widthIn  = Input{"width", "length", "0 mm", "at most; 0: as usual"}
	heightIn = Input{"height", "length", "0 mm", "at most; 0: as usual"}
	depthIn  = Input{"depth", "length", "0 mm", "at most; 0: as usual"}
)

// sized makes a calculator that sizes one kind of storage for things kept one way.
func sized(name, about, kind, hold string) Calculator {
	return Calculator{Name: name, About: about, Source: layoutSource, Inputs: []Input{thingsIn, reserve, widthIn, heightIn, depthIn},
		run: func(a *args) map[string]any { return a.design(kind, hold, "") }}
}

var storages = []Calculator{
	sized("clamp-rack", "slots for clamps: pitch, slots with reserve, length, clear drop", "clamp-rack", "slot"),
	sized("blade-rack", "slots for blades on edge (width is the thickness of a blade as it stands there)", "blade-rack", "slot"),
	sized("arm-rack", "a rack of arms for boards (width is the length of a board, depth its width, height its thickness)", "lumber-rack", "arms"),
	sized("sheet-bay", "a bay for sheets on edge", "sheet-bay", "lean"),
	sized("drawer-layout", "a chest of drawers: how many, how high, and what lies where", "drawer-bank", "flat"),
	sized("bin-fill", "bins for small parts, one for each", "bins", "bin"),
	{
		Name: "charger-shelf", About: "a shelf for chargers with air and cords, and outlets", Source: layoutSource,
		Inputs: []Input{thingsIn, reserve, widthIn, heightIn, depthIn},
		run:    func(a *args) map[string]any { return a.design("charger-shelf", "stand", "charger") },
	},
	{
		Name: "place-from-items", About: "any kind of storage sized from what it must hold", Source: layoutSource,
		Inputs: []Input{{"kind", "text", "", "cleat-field, peg-field, tool-board, magnet-rail, shelf-unit, drawer-bank and so on"}, thingsIn, {"hold", "text", "hang", "how the things are kept: " + strings.Join(shop.Hold("").Words(), ", ")}, reserve, widthIn, heightIn, depthIn},
		run: func(a *args) map[string]any {
			kind, hold := a.text("kind"), a.choice("hold", shop.Hold("").Words()...)
			if a.err != nil {
				return nil
			}
			return a.design(kind, hold, "")
		},
	},
}

// design sizes a kind of storage and writes what came of it.
func (a *args) design(kind, hold, flag string) map[string]any {
	items := a.things(hold, flag)
	n := storage.Need{Items: items, Reserve: a.number("reserve", 0, .9), Width: length.MM(a.length("width", 0)), Height: length.MM(a.length("height", 0)), Depth: length.MM(a.length("depth", 0))}
	if a.err != nil {
		return nil
	}
	d, err := storage.Size(kind, "X1", n)
	if a.refused("things", err) {
		return nil
	}
	places := []map[string]any{}
	for _, p := range d.Places {
		q := map[string]any{"id": p.ID, "w": p.W.MM(), "h": p.H.MM(), "d": p.D.MM()}
		if len(p.Slots) > 0 {
			q["slots"] = p.Slots
		}
		if len(p.Rows) > 0 {
			q["rows"] = p.Rows
		}
		if len(p.Levels) > 0 {
			q["levels"] = p.Levels
		}
		places = append(places, q)
	}
	return map[string]any{"w": d.W.MM(), "h": d.H.MM(), "d": d.D.MM(), "kg": hundredth(d.KG.KG()), "fill": hundredth(d.Fill), "kept_free": d.Spare, "places": places, "homes": d.Homes, "limiting": d.Rules, "cautions": d.Cautions, "left": d.Left}
}

// things reads what is to be kept.
func (a *args) things(hold, flag string) []*shop.Item {
	text := a.text("things")
	if a.err != nil {
		return nil
	}
	var out []*shop.Item
	for i, one := range strings.Split(text, ";") {
		v := a.split("things", strings.ToLower(one), "x", 4)
		if a.err != nil {
			return nil
		}
		if v[0] < 1 || v[0] > 1000 || v[0] != float64(int(v[0])) || v[1] <= 0 || v[2] <= 0 || v[3] <= 0 {
			a.fail("things", "%q should be a count and three sides over 0", one)
			return nil
		}
		it := &shop.Item{ID: "thing-" + strconv.Itoa(i+1), Name: fmt.Sprintf("thing %d", i+1), Count: int(v[0]), W: length.MM(v[1]), H: length.MM(v[2]), D: length.MM(v[3]), Hold: []shop.Hold{shop.Hold(hold)}, KG: weight.Weight(0)}
		if flag != "" {
			it.Flags = []shop.Flag{shop.Flag(flag)}
		}
		out = append(out, it)
	}
	return out
}
