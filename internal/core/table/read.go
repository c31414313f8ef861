package table

import (
	"fmt"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"time"
	"unicode"

	"hobrak/internal/core/belongings"
	"hobrak/internal/core/kinds"
	"hobrak/internal/core/length"
	"hobrak/internal/core/line"
	"hobrak/internal/core/shop"
)

// Row of a sheet and what becomes of it.
type Row struct {
	Number  int      `json:"number" doc:"of the sheet, from 1"`
	Does    string   `json:"does" enum:"new,change,same,fault,left,empty"`
	ID      string   `json:"id"`
	Name    string   `json:"name"`
	Changes []string `json:"changes" nullable:"false" doc:"columns that say something new"`
	Assumed int      `json:"assumed" doc:"figures taken from the kind of thing"`
	Faults  []Fault  `json:"faults" nullable:"false"`
	Left    string   `json:"left" doc:"why the row is left out though something is in it; empty otherwise"`

	item  shop.Item
	index int // in the shop's items, -1 when new
	homes []shop.Home
	moved bool // the row says where it lives, and that is new
}

// Reading of a whole sheet.
type Reading struct {
	Rows     []Row    `json:"rows" nullable:"false"`
	New      int      `json:"new"`
	Changed  int      `json:"changed"`
	Same     int      `json:"same"`
	Faulty   int      `json:"faulty"`
	Left     int      `json:"left" doc:"rows that are no things: totals, headings in between, remarks beside the table"`
	Empty    int      `json:"empty"`
	Stations []string `json:"stations" nullable:"false" doc:"stations that are named and not there"`
}

// tooLarge refuses what could not be looked through anyway.
func tooLarge(rows [][]string) error {
	if len(rows) > MaxRows {
		return fmt.Errorf("the table has %d rows; at most %d can be read at once", len(rows), MaxRows)
	}
	for i, r := range rows {
		if len(r) > MaxColumns {
			return fmt.Errorf("row %d has %d columns; at most %d can be read", i+1, len(r), MaxColumns)
		}
	}
	return nil
}

type reader struct {
	shop    *shop.Shop
	ix      *shop.Index
	m       Mapping
	at      map[string]int   // column of each field, where one is mapped
	byID    map[string]int   // index of the thing
	byName  map[string][]int // the same, by its name in lower case
	used    map[int]bool     // things that a row has changed already
	named   map[string]int   // row that an id was given in
	taken   map[string]bool  // ids
	missing map[string]bool  // stations
	usual   map[string]shop.Item
	// units in which values are compared
	lengths, weights string
}

// Read says what would become of every row. The shop stays as it is. Progress
// is given how many rows are done, and may stop the reading with an error.
func Read(s *shop.Shop, rows [][]string, m Mapping, progress func(done, total int) error) (*Reading, error) {
	if err := tooLarge(rows); err != nil {
		return nil, err
	}
	r := &reader{shop: s, ix: shop.NewIndex(s), m: m, at: map[string]int{}, byID: map[string]int{}, byName: map[string][]int{}, used: map[int]bool{},
		named: map[string]int{}, taken: map[string]bool{}, missing: map[string]bool{}, usual: map[string]shop.Item{}}
	r.lengths, r.weights = units(s)
	for c, u := range m.Columns {
		if u.Field == "" {
			continue
		}
		col := column(u.Field)
		if col == nil {
			return nil, fmt.Errorf("column %s: there is no field %q", Letter(c), u.Field)
		}
		if before, twice := r.at[u.Field]; twice {
			return nil, fmt.Errorf("columns %s and %s are both taken for %s; leave one out", Letter(before), Letter(c), col.Title)
		}
		r.at[u.Field] = c
	}
	if _, ok := r.at["name"]; !ok {
		if _, ok := r.at["line"]; !ok {
			if _, ok := r.at["id"]; !ok {
				return nil, fmt.Errorf("no column says what the things are called; choose one for the thing")
			}
		}
	}
	for i := range s.Items {
		it := &s.Items[i]
		r.byID[it.ID] = i
		r.taken[it.ID] = true
		key := strings.ToLower(strings.TrimSpace(it.Name))
		r.byName[key] = append(r.byName[key], i)
	}
	if c, ok := r.at["id"]; ok {
		for i := m.First; i < len(rows); i++ {
			if id := unquoted(cell(rows, i, c)); id != "" {
				r.taken[id] = true
			}
		}
	}
	out := &Reading{Rows: []Row{}, Stations: []string{}}
	for i := max(0, m.First); i < len(rows); i++ {
		row := r.row(rows, i)
		switch row.Does {
		case "new":
			out.New++
		case "change":
			out.Changed++
		case "same":
			out.Same++
		case "fault":
			out.Faulty++
		case "left":
			out.Left++
		default:
			out.Empty++
			continue
		}
		out.Rows = append(out.Rows, row)
		if progress != nil && (i%100 == 99 || i == len(rows)-1) {
			if err := progress(i+1-m.First, len(rows)-m.First); err != nil {
				return nil, err
			}
		}
	}
	for name := range r.missing {
		out.Stations = append(out.Stations, name)
	}
	slices.Sort(out.Stations)
	return out, nil
}

var broken = regexp.MustCompile(`^#(N/A|REF!|VALUE!|DIV/0!|NAME\?|NUM!|NULL!)$`)

// row reads one row.
func (r *reader) row(rows [][]string, i int) Row {
	row := Row{Number: i + 1, Changes: []string{}, Faults: []Fault{}, index: -1}
	said := map[string]string{}
	for field, c := range r.at {
		text := cell(rows, i, c)
		if text == "" {
			continue
		}
		switch {
		case broken.MatchString(text):
			r.fault(&row, field, text, "the spreadsheet itself failed here; put a value in its place")
			continue
		case strings.HasPrefix(text, "="):
			r.fault(&row, field, text, "this is a formula, not its value; save the sheet with values, or put an apostrophe before a text")
			continue
		case len(text) > maxCell:
			r.fault(&row, field, text[:40]+" …", fmt.Sprintf("this is longer than %d characters", maxCell))
			continue
		case !validText(text):
			r.fault(&row, field, text, "this is not text; was the file saved in another encoding?")
			continue
		}
		said[field] = unquoted(text)
	}
	if len(said) == 0 && len(row.Faults) == 0 {
		row.Does = "empty"
		return row
	}
	if len(row.Faults) == 0 {
		row.Left = r.noThing(rows, i, said)
	}
	if row.Left != "" {
		row.Does, row.Name, row.Faults = "left", said["name"], []Fault{}
		return row
	}
	r.find(&row, said)
	if row.index >= 0 {
		row.item = copied(&r.shop.Items[row.index])
	} else if !r.begin(&row, said) {
		row.Does = "fault"
		return row
	}
	row.Name = row.item.Name
	r.fields(&row, said)
	row.Assumed = len(row.item.Assumed)
	if len(row.Faults) > 0 {
		slices.SortFunc(row.Faults, func(a, b Fault) int { return a.Column - b.Column })
		row.Does = "fault"
		return row
	}
	row.Name, row.ID = row.item.Name, row.item.ID
	r.compare(&row)
	return row
}

// totals are what people write before the sums under a list.
var totals = regexp.MustCompile(`(?i)^(grand |sub-?)?(totals?|sum|sums|summe|gesamt|insgesamt|zwischensumme|somme|total général|suma)\b[\s:=]*[\d.,]*$`)

// noThing tells why a row with something in it is about no thing: it sums the list up, is a heading over the rows that follow,
// repeats the headings, or is a remark beside the table.
func (r *reader) noThing(rows [][]string, i int, said map[string]string) string {
	name := strings.TrimSpace(said["name"])
	_, named := r.at["name"]
	if !named || said["line"] != "" || said["id"] != "" {
		return ""
	}
	figures := 0
	for field, text := range said {
		if field != "name" && strings.ContainsAny(text, "0123456789") {
			figures++
		}
	}
	switch {
	case totals.MatchString(name):
		return "it sums up what stands above"
	case name == "" && figures == 0:
		return "it says nothing of a thing: a remark beside the table"
	case name == "" && figures == len(said) && !slices.ContainsFunc(rows[i+1:], func(later []string) bool {
		return cell([][]string{later}, 0, r.at["name"]) != ""
	}):
		return "figures without a name: a sum of what stands above"
	}
	same := r.m.First > 0
	for field, c := range r.at {
		if t := said[field]; t != "" {
			same = same && strings.EqualFold(t, cell(rows, r.m.First-1, c))
		}
	}
	if same {
		return "it repeats the headings"
	}
	if len(said) == 1 && len(r.at) > 1 {
		letters := strings.IndexFunc(name, unicode.IsLetter) >= 0
		if strings.HasSuffix(name, ":") || letters && name == strings.ToUpper(name) && len([]rune(name)) > 3 {
			return "it is a heading over the rows that follow"
		}
	}
	return ""
}

// find looks for the thing a row is about: by its id, else by its name, each
// thing once.
func (r *reader) find(row *Row, said map[string]string) {
	id := said["id"]
	if id != "" {
		if before, twice := r.named[id]; twice {
			r.fault(row, "id", id, fmt.Sprintf("row %d has this id already", before))
			return
		}
		r.named[id] = row.Number
		if i, ok := r.byID[id]; ok {
			row.index, r.used[i] = i, true
			return
		}
	}
	for _, i := range r.byName[strings.ToLower(said["name"])] {
		_, other := r.named[r.shop.Items[i].ID] // a row above is about that one
		if said["name"] != "" && !r.used[i] && !other {
			row.index, r.used[i] = i, true
			return
		}
	}
}

// begin makes a new thing with what is usual for its kind.
func (r *reader) begin(row *Row, said map[string]string) bool {
	if text := said["line"]; text != "" {
		p := line.Parse(text, belongings.Context(r.shop))
		for _, c := range p.Chips {
			if c.Kind == "unknown" {
				r.fault(row, "line", c.Text, c.Says)
			}
		}
		if p.Why != "" {
			r.fault(row, "line", text, p.Why)
		}
		row.item = p.Item
	} else {
		if said["name"] == "" {
			if len(row.Faults) > 0 {
				return false // it is said already what is wrong with it
			}
			r.fault(row, "name", "", "what is it? A new thing needs a name")
			return false
		}
		row.item = r.ordinary(said["name"], strings.ToLower(said["kind"]))
	}
	row.item.ID = said["id"]
	if row.item.ID == "" {
		name := said["name"]
		if name == "" {
			name = row.item.Name
		}
		row.item.ID = belongings.ID(name, func(id string) bool { return r.taken[id] })
		r.taken[row.item.ID] = true
	}
	// A column that is there speaks for every new thing, also by saying nothing.
	for _, f := range []string{"hold", "flags", "used_at", "family"} {
		if _, ok := r.at[f]; ok {
			_ = belongings.Put(r.shop, &row.item, f, "")
		}
	}
	return len(row.Faults) == 0
}

// inName are sizes in a name, which are not those of the thing: screws 4 x 40.
var inName = regexp.MustCompile(`(?i)\b[\d.,]+\s*(mm|cm|m|in)?\s*[x×]\s*[\d.,]+(\s*(mm|cm|m|in)\b)?`)

// ordinary is a thing of that name as its kind usually is, all of it assumed.
func (r *reader) ordinary(name, kind string) shop.Item {
	key := name + "\x00" + kind
	if it, ok := r.usual[key]; ok {
		return copied(&it)
	}
	text := inName.ReplaceAllString(name, " ")
	if _, known := kinds.ByID(kind); known {
		text += " kind:" + kind
	}
	it := line.Parse(text, belongings.Context(r.shop)).Item
	if it.W == 0 {
		it = line.Parse("thing", belongings.Context(r.shop)).Item
	}
	it.Name, it.Count, it.Family, it.Notes = name, 0, "", ""
	it.Assumed = []string{"w", "h", "d", "kg", "uses_per_week"}
	r.usual[key] = it
	return copied(&it)
}

func copied(it *shop.Item) shop.Item {
	c := *it
	c.Hold, c.Flags, c.UsedAt, c.Assumed, c.Photos = slices.Clone(it.Hold), slices.Clone(it.Flags), slices.Clone(it.UsedAt), slices.Clone(it.Assumed), slices.Clone(it.Photos)
	return c
}

// fields puts what the row says into the thing, in the order of the columns.
func (r *reader) fields(row *Row, said map[string]string) {
	for i := range Columns {
		c := &Columns[i]
		text, ok := said[c.Field]
		if !ok {
			continue
		}
		unit := ""
		if at, ok := r.at[c.Field]; ok {
			unit = r.m.Columns[at].Unit
		}
		why := ""
		switch c.Field {
		case "id", "line":
		case "assumed":
			why = r.assumed(row, text)
		case "photos":
			row.item.Photos = pieces(text)
			why = r.itemIsGood(row)
		case "home":
			if row.homes, why = readHomes(r.shop, text); why == "" {
				row.moved, why = true, r.homesFit(row)
			}
		case "size", "flat":
			why = r.sides(row, c.Field, text, unit)
		case "length":
			why = r.long(row, said)
		case "with": // things of further rows may be meant: names become ids when all are there
			row.item.With = pieces(text)
		case "review", "due":
			if n, err := strconv.Atoi(text); err == nil && n > 20_000 && n < 80_000 {
				// How spreadsheets keep a date: days since the end of 1899.
				text = time.Date(1899, 12, 30+n, 0, 0, 0, 0, time.UTC).Format(time.DateOnly)
			}
			why = belongings.Put(r.shop, &row.item, c.Field, text)
		default:
			why = r.put(row, c, text, unit, said)
		}
		if why != "" {
			r.fault(row, c.Field, text, why)
		}
	}
}

// homesFit tells what the shop would say about the homes of a row.
func (r *reader) homesFit(row *Row) string { return r.judged(row, slices.Clone(row.homes)) }

// itemIsGood tells what the shop would say about the thing of a row.
func (r *reader) itemIsGood(row *Row) string { return r.judged(row, nil) }

// judged is what the shop says is wrong with the thing of a row and homes of it.
func (r *reader) judged(row *Row, homes []shop.Home) string {
	alone := *r.shop
	alone.Items, alone.Homes = []shop.Item{row.item}, homes
	for i := range alone.Homes {
		alone.Homes[i].Item = row.item.ID
	}
	if faults, ok := alone.Validate().(*shop.Faults); ok {
		return faults.List[0].Message
	}
	return ""
}

// put hands a cell to the field it is for, in the units of its column.
func (r *reader) put(row *Row, c *Column, text, unit string, said map[string]string) string {
	switch c.Holds {
	case "length":
		if said["length"] != "" && (c.Field == "w" || c.Field == "h" || c.Field == "d") {
			return "" // long puts all sides together
		}
		text = measured(r.m.number(text), unit)
	case "weight":
		if text = r.m.number(text); unit != "" && plainNumber.MatchString(text) {
			text += " " + unit
		}
	case "number":
		text = strings.TrimSuffix(r.m.number(text), ".0")
	case "text":
		if text == "-" || text == "–" {
			text = "" // takes away what was there
			if c.Field == "name" {
				return "a thing needs a name"
			}
		}
	}
	why := belongings.Put(r.shop, &row.item, c.Field, text)
	if why != "" && c.Field == "used_at" {
		for _, name := range pieces(text) {
			if belongings.Put(r.shop, &shop.Item{}, "used_at", name) != "" {
				r.missing[strings.TrimPrefix(name, "@")] = true
			}
		}
	}
	return why
}

func pieces(text string) []string {
	var out []string
	for _, p := range strings.FieldsFunc(text, func(r rune) bool { return r == ',' || r == ';' }) {
		if p = strings.TrimSpace(p); p != "" {
			out = append(out, p)
		}
	}
	return out
}

func (r *reader) assumed(row *Row, text string) string {
	var list []string
	for _, p := range pieces(text) {
		p = strings.ReplaceAll(strings.ToLower(p), " ", "_")
		if p == "-" {
			continue
		}
		if !slices.Contains([]string{"w", "h", "d", "kg", "uses_per_week"}, p) {
			return fmt.Sprintf("%q should be some of w, h, d, kg and uses_per_week", p)
		}
		if !slices.Contains(list, p) {
			list = append(list, p)
		}
	}
	row.item.Assumed = list
	return ""
}

var between = regexp.MustCompile(`\s*[x×*]\s*`)

// sides reads a size in one cell.
func (r *reader) sides(row *Row, field, text, unit string) string {
	parts := between.Split(strings.ToLower(text), -1)
	if len(parts) < 2 || len(parts) > 3 || field == "flat" && len(parts) != 3 {
		return fmt.Sprintf("%q should be two or three sides, as 360 x 65 x 140", text)
	}
	last := strings.TrimLeft(strings.TrimSpace(parts[len(parts)-1]), "0123456789.,/ ½¼¾⅛⅜⅝⅞-")
	if _, ok := unitWords[last]; ok {
		unit = unitWords[last] // a unit at the last one counts for all
	}
	var list []length.Length
	for _, p := range parts {
		l, err := length.Parse(measured(r.m.number(p), unit), r.shop.Settings.Units)
		switch {
		case err != nil:
			return err.Error()
		case l <= 0 || l > shop.MostSide:
			return fmt.Sprintf("%s is not possible for a side; it should be more than 0 and at most %s", l, shop.MostSide)
		}
		list = append(list, l)
	}
	if field == "flat" {
		row.item.Flat = &shop.Size{W: list[0], H: list[1], D: list[2]}
		return ""
	}
	r.place(row, list)
	return ""
}

// long puts a length and the other sides of the row together.
func (r *reader) long(row *Row, said map[string]string) string {
	var list []length.Length
	for _, f := range []string{"length", "w", "h", "d"} {
		text, ok := said[f]
		if !ok {
			continue
		}
		l, err := length.Parse(measured(r.m.number(text), r.m.Columns[r.at[f]].Unit), r.shop.Settings.Units)
		switch {
		case err != nil:
			return err.Error()
		case l <= 0 || l > shop.MostSide:
			return fmt.Sprintf("%s is not possible for a side; it should be more than 0 and at most %s", l, shop.MostSide)
		}
		list = append(list, l)
	}
	if len(list) == 4 {
		return "there are a length, a width, a height and a depth; three sides are enough"
	}
	if _, known := kinds.ByID(row.item.Kind); !known && len(list) == 3 {
		// Length, width and height of something lying: across, out and up.
		list[1], list[2] = list[2], list[1]
	}
	r.place(row, list)
	return ""
}

// place puts lengths onto the sides of the thing as a typed line does.
func (r *reader) place(row *Row, list []length.Length) {
	it := &row.item
	usual := [3]float64{it.W.MM(), it.H.MM(), it.D.MM()}
	k, known := kinds.ByID(it.Kind)
	if known {
		usual = [3]float64{k.W, k.H, k.D}
	}
	order, typed := line.Sides(list, usual, known)
	side, names := []*length.Length{&it.W, &it.H, &it.D}, []string{"w", "h", "d"}
	for n, l := range typed {
		*side[order[n]] = l
		it.Assumed = slices.DeleteFunc(it.Assumed, func(f string) bool { return f == names[order[n]] })
	}
	if len(it.Assumed) == 0 {
		it.Assumed = nil
	}
}

// compare says what is new in a row about a thing that is there.
func (r *reader) compare(row *Row) {
	if row.index < 0 {
		row.Does = "new"
		return
	}
	old := &r.shop.Items[row.index]
	for _, c := range Columns {
		if c.only || c.Field == "home" {
			continue
		}
		if value(r.ix, old, c.Field, r.lengths, r.weights) != value(r.ix, &row.item, c.Field, r.lengths, r.weights) {
			row.Changes = append(row.Changes, c.Title)
		}
	}
	if row.moved {
		if row.moved = !r.livesThere(row); row.moved {
			row.Changes = append(row.Changes, column("home").Title)
		}
	}
	row.Does = "same"
	if len(row.Changes) > 0 {
		row.Does = "change"
	}
}

// livesThere tells whether the homes of a row are those the thing has; a place
// without a spot is met by any spot in it.
func (r *reader) livesThere(row *Row) bool {
	now := r.ix.Homes(row.item.ID)
	if len(now) != len(row.homes) {
		return false
	}
	for i, h := range row.homes {
		if h.Item == "?" {
			if now[i].Place != h.Place {
				return false
			}
			continue
		}
		h.Item = row.item.ID
		if h != *now[i] {
			return false
		}
	}
	return true
}

func (r *reader) fault(row *Row, field, text, why string) {
	c := r.at[field]
	row.Faults = append(row.Faults, Fault{row.Number, c, Letter(c), field, text, why})
}

func validText(s string) bool {
	return !strings.ContainsRune(s, '\uFFFD') && !strings.ContainsRune(s, 0)
}
