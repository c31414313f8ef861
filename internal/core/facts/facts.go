// Package facts is what somebody says of their shop as a whole: who works in it, how often, in which units, what may be
// fixed to the building, how they like to work, and the figures that are theirs to set. Each is a field with
// a path, what is in it in the units of the shop, what counts while nothing is said, and what it does to the answers.
package facts

import (
	"fmt"
	"math"
	"slices"
	"strconv"
	"strings"

	"hobrak/internal/core/length"
	"hobrak/internal/core/reach"
	"hobrak/internal/core/shop"
)

// Field is one fact.
type Field struct {
	Path    string   `json:"path"`
	Label   string   `json:"label"`
	Text    string   `json:"text" doc:"what is said; empty when nothing is"`
	Usual   string   `json:"usual" doc:"what counts while nothing is said"`
	Unit    string   `json:"unit" doc:"of a bare number: empty for the length of the shop's system"`
	Choices []string `json:"choices" nullable:"false" doc:"what it may be; empty when anything"`
	Many    bool     `json:"many" doc:"several of the choices, with commas between them"`
	Does    string   `json:"does" doc:"what it does to the answers"`
}

// Group of facts that belong together.
type Group struct {
	ID     string  `json:"id"`
	Name   string  `json:"name"`
	Does   string  `json:"does"`
	Fields []Field `json:"fields" nullable:"false"`
	Remove string  `json:"remove" doc:"path that takes it away when something is entered; empty when it stays"`
}

// FieldError says why something cannot be so.
type FieldError struct{ Path, Reason string }

func (e *FieldError) Error() string { return e.Reason }

// fact is how a field is shown and entered.
type fact struct {
	path, label, unit, does string
	choices                 []string
	many                    bool // several of them
	show                    func(*shop.Settings, writer) string
	usual                   func(writer) string
	enter                   func(*shop.Settings, reader) error
}

// writer writes in the units of the shop, reader reads what was typed.
type writer struct{ style length.Style }

func (w writer) length(l length.Length) string { return w.style.Typed(l) }

func number(v float64) string { return strconv.FormatFloat(math.Round(v*1000)/1000, 'f', -1, 64) }

type reader struct {
	text  string
	units length.System
}

func (r reader) length(low, high length.Length) (length.Length, error) {
	l, err := length.Parse(r.text, r.units)
	if err == nil && (l < low || l > high) {
		err = fmt.Errorf("%s should be from %s to %s", l, low, high)
	}
	return l, err
}

func (r reader) number(low, high float64) (float64, error) {
	v, err := strconv.ParseFloat(strings.Replace(strings.TrimSpace(strings.TrimSuffix(r.text, "%")), ",", ".", 1), 64)
	if err != nil || math.IsNaN(v) || v < low || v > high {
		return 0, fmt.Errorf("%q should be a number from %s to %s", r.text, number(low), number(high))
	}
	return v, nil
}

func (r reader) choice(words []string) (string, error) {
	if !slices.Contains(words, r.text) {
		return "", fmt.Errorf("%q should be one of %s", r.text, strings.Join(words, ", "))
	}
	return r.text, nil
}

// several of some words, with commas between them, in the order of the words.
func (r reader) several(words []string) (out []string, err error) {
	for _, w := range strings.FieldsFunc(r.text, func(c rune) bool { return c == ',' || c == ' ' }) {
		if !slices.Contains(words, w) {
			return nil, fmt.Errorf("%q should be some of %s", w, strings.Join(words, ", "))
		}
	}
	for _, w := range words {
		if slices.Contains(strings.FieldsFunc(r.text, func(c rune) bool { return c == ',' || c == ' ' }), w) {
			out = append(out, w)
		}
	}
	return out, nil
}

// chosen is a fact of several words of a list.
func chosen(path, label, does string, of func(*shop.Settings) *[]string) fact {
	words := shop.Choices[shop.Settings](path)
	return fact{path: path, label: label, does: does, choices: words, many: true,
		show: func(s *shop.Settings, _ writer) string { return strings.Join(*of(s), ", ") },
		enter: func(s *shop.Settings, r reader) (err error) {
			*of(s), err = r.several(words)
			return err
		}}
}

var yesNo = []string{"yes", "no"}

func yes(b bool) string {
	if b {
		return "yes"
	}
	return "no"
}

// general facts of the shop.
var general = []fact{
	{path: "name", label: "called", does: "stands at the top of every screen and sheet",
		show: func(s *shop.Settings, _ writer) string { return s.Name },
		enter: func(s *shop.Settings, r reader) error {
			if r.text == "" || len(r.text) > 80 {
				return fmt.Errorf("a shop has a name of at most 80 letters")
			}
			s.Name = r.text
			return nil
		}},
	{path: "units", label: "units", choices: []string{"metric", "imperial"}, does: "what is shown, and what a number without a unit means; nothing changes its size",
		show: func(s *shop.Settings, _ writer) string { return string(s.Units) },
		enter: func(s *shop.Settings, r reader) error {
			u, err := r.choice([]string{"metric", "imperial"})
			if err == nil {
				s.Units = length.System(u)
			}
			return err
		}},
	{path: "decimal", label: "decimals", choices: shop.Choices[shop.Settings]("decimal"), does: "the mark before them in what is shown; whichever you type is read",
		usual: func(writer) string { return "point" },
		show:  func(s *shop.Settings, _ writer) string { return s.Decimal },
		enter: func(s *shop.Settings, r reader) (err error) {
			if r.text == "" {
				s.Decimal = ""
				return nil
			}
			s.Decimal, err = r.choice(shop.Choices[shop.Settings]("decimal"))
			return err
		}},
	{path: "sessions_per_week", label: "sessions a week", unit: "a week", does: "a question such as “what if I worked twice as often” scales all uses by it",
		show: func(s *shop.Settings, _ writer) string { return orEmpty(s.SessionsPerWeek) },
		enter: func(s *shop.Settings, r reader) (err error) {
			s.SessionsPerWeek, err = orNone(r, 50)
			return err
		}},
	{path: "change_minutes", label: "changing the floor", unit: "min", does: "a change from one arrangement of the floor to another that takes longer is said to be too long",
		show: func(s *shop.Settings, _ writer) string { return orEmpty(s.ChangeMinutes) },
		enter: func(s *shop.Settings, r reader) (err error) {
			s.ChangeMinutes, err = orNone(r, 240)
			return err
		}},
	{path: "pace", label: "pace of moving things", unit: "×", does: "evenings are so much longer than usual: 1 as usual, 1.5 half as long again; it is learned from steps that are ticked",
		show: func(s *shop.Settings, _ writer) string { return orEmpty(s.Pace) },
		enter: func(s *shop.Settings, r reader) (err error) {
			s.Pace, err = orNone(r, 5)
			return err
		}},
	{path: "growth_reserve", label: "room to grow", unit: "%", does: "the share of each place that is kept free when storage is sized, and that a full place is measured by",
		show: func(s *shop.Settings, _ writer) string { return orEmpty(100 * s.GrowthReserve) },
		enter: func(s *shop.Settings, r reader) error {
			v, err := orNone(r, 90)
			s.GrowthReserve = v / 100
			return err
		}},
	{path: "fixing", label: "fixed to the building", choices: shop.Fixings(), does: "none: no storage is offered that needs a hole, and what hangs is a caution; few-holes: each hole counts for the estimate of one, and spots that need some say to ask first",
		usual: func(writer) string { return shop.AnyHoles },
		show:  func(s *shop.Settings, _ writer) string { return s.Fixing },
		enter: func(s *shop.Settings, r reader) (err error) {
			if r.text == "" {
				s.Fixing = ""
				return nil
			}
			s.Fixing, err = r.choice(shop.Fixings())
			return err
		}},
	chosen("makes", "what is made", "tick lists offer first what people have who make it", func(s *shop.Settings) *[]string { return &s.Makes }),
	chosen("shares", "what else lives there", "each is asked for until it stands on the floor, and everything is planned round it", func(s *shop.Settings) *[]string { return &s.Shares }),
	{path: "wood_cap", label: "wood in stock at most", unit: "m³", does: "what is over it is said on the Wood screen, and before a delivery comes",
		show: func(s *shop.Settings, _ writer) string { return orEmpty(s.WoodCap) },
		enter: func(s *shop.Settings, r reader) (err error) {
			s.WoodCap, err = orNone(r, 1000)
			return err
		}},
	{path: "useful", label: "offcuts are kept from a length of", does: "shorter ones are on the list of what may go",
		show: func(s *shop.Settings, w writer) string {
			if s.Useful == 0 {
				return ""
			}
			return w.length(s.Useful)
		},
		enter: func(s *shop.Settings, r reader) (err error) {
			if strings.TrimSpace(r.text) == "" {
				s.Useful = 0
				return nil
			}
			s.Useful, err = r.length(0, 5000*length.Millimetre)
			return err
		}},
	{path: "wood_months", label: "wood is looked at again after", unit: "months", does: "what has lain untouched for longer is on the list of what may go",
		show: func(s *shop.Settings, _ writer) string { return orEmpty(s.WoodMonths) },
		enter: func(s *shop.Settings, r reader) (err error) {
			s.WoodMonths, err = orNone(r, 600)
			return err
		}},
	{path: "odds", label: "place for odds and ends", does: "one honest place for what has no other; three things of it are asked for each week, and more than it may hold is said",
		show: func(s *shop.Settings, _ writer) string { return s.Odds },
		enter: func(s *shop.Settings, r reader) error {
			if s.Odds = strings.ToUpper(strings.TrimSpace(r.text)); len(s.Odds) > 64 {
				return fmt.Errorf("an address is short, as K2-3")
			}
			return nil
		}},
	{path: "odds_most", label: "odds and ends at most", does: "so many lines may lie there",
		show: func(s *shop.Settings, _ writer) string { return orEmpty(float64(s.OddsMost)) },
		enter: func(s *shop.Settings, r reader) error {
			v, err := orNone(r, 1000)
			s.OddsMost = int(v)
			return err
		}},
	{path: "one_out", label: "one in, one out", choices: yesNo, does: "asks what leaves whenever something comes in",
		show: func(s *shop.Settings, _ writer) string { return yes(s.OneOut) },
		enter: func(s *shop.Settings, r reader) error {
			v, err := r.choice(yesNo)
			s.OneOut = v == "yes"
			return err
		}},
}

func orEmpty(v float64) string {
	if v == 0 {
		return ""
	}
	return number(v)
}

func orNone(r reader, most float64) (float64, error) {
	if r.text == "" {
		return 0, nil
	}
	return r.number(0, most)
}

// ways of working.
var ways = []fact{
	{path: "ways/open", label: "in sight", unit: "%", does: "how much of the storage of a proposal is open: 100 all in sight, 0 all behind doors",
		usual: func(writer) string { return "50" },
		show: func(s *shop.Settings, _ writer) string {
			return share(s.Ways, func(w *shop.Working) float64 { return w.Open })
		},
		enter: func(s *shop.Settings, r reader) error {
			return setShare(s, r, func(w *shop.Working, v float64) { w.Open = v })
		}},
	{path: "ways/by_machine", label: "with their machine", unit: "%", does: "100 keeps accessories at their machine, 0 brings what is used most to the bench",
		usual: func(writer) string { return "50" },
		show: func(s *shop.Settings, _ writer) string {
			return share(s.Ways, func(w *shop.Working) float64 { return w.ByMachine })
		},
		enter: func(s *shop.Settings, r reader) error {
			return setShare(s, r, func(w *shop.Working, v float64) { w.ByMachine = v })
		}},
}

func share(w *shop.Working, of func(*shop.Working) float64) string {
	if w == nil {
		return ""
	}
	return number(100 * of(w))
}

func setShare(s *shop.Settings, r reader, set func(*shop.Working, float64)) error {
	if r.text == "" && s.Ways == nil {
		return nil
	}
	v := 50.0
	if r.text != "" {
		var err error
		if v, err = r.number(0, 100); err != nil {
			return err
		}
	}
	next := shop.Working{Open: .5, ByMachine: .5}
	if s.Ways != nil {
		next = *s.Ways
	}
	set(&next, v/100)
	s.Ways = &next
	return nil
}

// clearance is a field of the room that is kept free.
func clearance(path, label, does string, of func(*shop.Clearances) **length.Length, usual float64, low, high float64) fact {
	return fact{path: "clear/" + path, label: label, does: does,
		usual: func(w writer) string { return w.length(length.MM(usual)) },
		show: func(s *shop.Settings, w writer) string {
			if s.Clear == nil || *of(s.Clear) == nil {
				return ""
			}
			return w.length(**of(s.Clear))
		},
		enter: func(s *shop.Settings, r reader) error {
			next := shop.Clearances{}
			if s.Clear != nil {
				next = *s.Clear
			}
			*of(&next) = nil
			if r.text != "" {
				l, err := r.length(length.MM(low), length.MM(high))
				if err != nil {
					return err
				}
				*of(&next) = &l
			}
			s.Clear = &next
			if next == (shop.Clearances{}) {
				s.Clear = nil
			}
			return nil
		}}
}

var clearances = func() []fact {
	u := (&shop.Settings{}).Clearances()
	return []fact{
		clearance("aisle_main", "main ways", "between the main door and the stations; what sticks out must leave it", func(c *shop.Clearances) **length.Length { return &c.AisleMain }, u.AisleMain, 300, 3000),
		clearance("aisle_side", "other ways", "past what stands and hangs everywhere else", func(c *shop.Clearances) **length.Length { return &c.AisleSide }, u.AisleSide, 300, 3000),
		clearance("panel_wide", "panel, across", "kept free before an electrical panel; local codes may ask more", func(c *shop.Clearances) **length.Length { return &c.PanelWide }, u.PanelWide, 0, 3000),
		clearance("panel_deep", "panel, deep", "the same, out from the wall", func(c *shop.Clearances) **length.Length { return &c.PanelDeep }, u.PanelDeep, 0, 3000),
		clearance("panel_high", "panel, high", "the same, up from the floor", func(c *shop.Clearances) **length.Length { return &c.PanelHigh }, u.PanelHigh, 0, 4000),
		clearance("heater", "heater", "distance to a heater; its maker may ask more", func(c *shop.Clearances) **length.Length { return &c.Heater }, u.Heater, 0, 5000),
		clearance("head", "head room", "above the tallest person, under what hangs over a way", func(c *shop.Clearances) **length.Length { return &c.Head }, u.Head, 0, 1000),
		clearance("over_things", "over things", "above a bench, machine or vehicle, under what hangs from the ceiling", func(c *shop.Clearances) **length.Length { return &c.OverThings }, u.OverThings, 0, 2000),
	}
}()

// estimated are the estimates with what they are of.
var estimated = []struct{ name, label, does string }{
	{"door", "open and shut a door", "s"}, {"drawer", "pull out and push in a drawer", "s"}, {"lid", "lift and lower a lid", "s"}, {"lift_out", "lift a thing off its holder", "s"},
	{"aside", "put something aside", "s"}, {"stretch", "reach above the shoulder", "s"}, {"stool", "fetch and climb a stool", "s"}, {"ladder", "fetch and climb a ladder", "s"},
	{"hoist", "lower and raise a hoist", "s"}, {"roll_out", "roll out a cart", "s"}, {"in_sight", "find what is in sight", "s"}, {"labelled", "find what is labelled", "s"},
	{"unlabelled", "find what is not labelled", "s"}, {"heap", "find it in a heap", "s"}, {"stoop", "stoop where somebody does not kneel", "s"}, {"dim_sight", "search who reads labels badly", "times as long"}, {"step_height", "height of the step", "mm"}, {"hole", "a hole in a wall, where few are wanted", "s a week"}, {"homeless", "use of a thing without a home", "s"},
}

var estimates = func() (out []fact) {
	for _, e := range estimated {
		usual, _ := reach.DefaultEstimates().Of(e.name)
		out = append(out, fact{path: "estimates/" + e.name, label: e.label, unit: e.does, does: "counts in what fetching costs",
			usual: func(writer) string { return number(usual) },
			show: func(s *shop.Settings, _ writer) string {
				if v, ok := s.Estimates[e.name]; ok {
					return number(v)
				}
				return ""
			},
			enter: func(s *shop.Settings, r reader) error {
				next := map[string]float64{}
				for k, v := range s.Estimates {
					next[k] = v
				}
				delete(next, e.name)
				if r.text != "" {
					v, err := r.number(0, 3600)
					if err != nil {
						return err
					}
					next[e.name] = v
				}
				s.Estimates = next
				if len(next) == 0 {
					s.Estimates = nil
				}
				return nil
			}})
	}
	return out
}()

// price is a fact of what material costs.
func price(path, label, does string, of func(*shop.Prices) *float64) fact {
	return fact{path: "prices/" + path, label: label, does: does,
		show: func(s *shop.Settings, _ writer) string {
			if s.Prices == nil {
				return ""
			}
			return orEmpty(*of(s.Prices))
		},
		enter: func(s *shop.Settings, r reader) error {
			return setPrices(s, func(p *shop.Prices) (err error) {
				*of(p), err = orNone(r, 100000)
				return err
			})
		}}
}

// setPrices changes the prices; when none is left they are no longer said.
func setPrices(s *shop.Settings, set func(*shop.Prices) error) error {
	next := shop.Prices{}
	if s.Prices != nil {
		next = *s.Prices
	}
	if err := set(&next); err != nil {
		return err
	}
	s.Prices = &next
	if next == (shop.Prices{}) {
		s.Prices = nil
	}
	return nil
}

var prices = []fact{
	{path: "prices/currency", label: "currency", does: "stands behind what a plan costs",
		show: func(s *shop.Settings, _ writer) string {
			if s.Prices == nil {
				return ""
			}
			return s.Prices.Currency
		},
		enter: func(s *shop.Settings, r reader) error {
			return setPrices(s, func(p *shop.Prices) error {
				if len([]rune(r.text)) > 8 {
					return fmt.Errorf("a sign or short name of at most 8 letters")
				}
				p.Currency = r.text
				return nil
			})
		}},
	price("sheet", "a square metre of sheet", "of all boards of the storage a plan proposes", func(p *shop.Prices) *float64 { return &p.Sheet }),
	price("rail", "a metre of rail", "of rails, cleats and bars", func(p *shop.Prices) *float64 { return &p.Rail }),
}
