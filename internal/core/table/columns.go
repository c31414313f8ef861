// Package table turns the list of belongings into rows of text and rows of text
// into belongings: what a spreadsheet holds, however it was saved. It recognises
// what each column is from its heading and content, says for every row what
// would become of it and what is wrong with it, and changes nothing that the
// table does not say. Lengths are mm, weights kg, uses a week, unless a column
// says otherwise.
package table

import (
	"fmt"
	"slices"
	"strings"
	"unicode"

	"hobrak/internal/core/find"
	"hobrak/internal/core/length"
	"hobrak/internal/core/shop"
)

// Most rows and columns a table may have.
const (
	MaxRows    = 20_000
	MaxColumns = 400
	maxCell    = 4000 // characters
)

// Column that a table of belongings can have.
type Column struct {
	Field string // field of belongings.Put, or one of id, assumed, flat, photos, home, size, length and line
	Title string // its heading when it is written
	Holds string // length, weight, number or text
	Doc   string
	names []string // other headings
	// read only: never written, another way of saying what other columns say
	only bool
}

// Columns in the order in which they are written.
var Columns = []Column{
	{"id", "id", "text", "unique name; finds the thing again when the table is read once more", words("key|ref|reference|item id"), false},
	{"name", "thing", "text", "what it is called", words("item|name|tool|description|what|title|article|object|bezeichnung|gegenstand|werkzeug|désignation|nom|outil|herramienta"), false},
	{"kind", "kind", "text", "what sort of thing, as f-clamp; decides the silhouette", words("type|art|typ|sort"), false},
	{"count", "count", "number", "how many alike", words("qty|quantity|number|amount|pcs|pieces|how many|anzahl|menge|stück|stk|quantité|cantidad"), false},
	{"w", "width", "length", "as it is stored", words("w|wide|breadth|breite|b|largeur|ancho"), false},
	{"h", "height", "length", "as it is stored", words("h|high|höhe|hoehe|hauteur|alto"), false},
	{"d", "depth", "length", "as it is stored", words("d|deep|thickness|thick|tiefe|t|dicke|stärke|profondeur|fondo"), false},
	{"kg", "weight", "weight", "of one", words("weighs|mass|gewicht|poids|peso"), false},
	{"uses", "times a week", "number", "a number, or words such as weekly", words("uses|use|used|frequency|how often|often|uses per week|per week|fetched|häufigkeit|fréquence|frecuencia"), false},
	{"used_at", "used at", "text", "stations, with commas between them", words("station|stations|where used|at|workplace|machine|arbeitsplatz|maschine"), false},
	{"hold", "held", "text", "hang, stand, flat, slot, lean, arms, bin, magnet", words("hold|holding|how held|mounting"), false},
	{"family", "family", "text", "what it wants to live with", words("set|kit|group|category|familie|kategorie|gruppe|famille|catégorie|familia"), false},
	{"flags", "mind", "text", "sharp, fragile, dust, freeze, flammable, child, rust, fades, heavy-handed, show, charger, dull, lent", words("flags|flag|caution|cautions|hazard|hazards|tags"), false},
	{"assumed", "assumed", "text", "which of w, h, d, kg and uses_per_week are assumed", words("guessed|estimated"), false},
	{"clearance", "clearance", "length", "to its neighbours", words("clearance|hand room"), false},
	{"turn", "may turn", "text", "yes or no", words("turn"), false},
	{"flat", "size lying", "text", "width × height × depth lying flat", words("flat|lying"), false},
	{"realm", "realm", "text", "shop or household", words("shop or household"), false},
	{"whose", "whose", "text", "who uses it; anybody when empty", words("owner|belongs to|besitzer|propriétaire|dueño"), false},
	{"status", "status", "text", "owned, wished or limbo", words("state"), false},
	{"keep", "keep", "text", "yes: never suggested for leaving", words("keep always"), false},
	{"promised_to", "promised to", "text", "project it is kept for", words("project"), false},
	{"goes_to", "goes to", "text", "where it is to go", nil, false},
	{"review", "decide by", "text", "a date as 2027-05-31", words("review|review date"), false},
	{"twins", "twins", "number", "how many are wanted at different places", nil, false},
	{"with", "goes with", "text", "things that are wanted whenever it is used, with commas between them", words("with|accessories|accessory|needs with it"), false},
	{"set_up", "set-up", "text", "how it is set up: which bit, which shim", words("setup|set up|settings"), false},
	{"due", "due", "text", "day by which it is inspected or replaced, as 2027-05-31", words("expires|expiry|best before|inspect by|inspection|replace by"), false},
	{"wood", "wood", "text", "of a board, sheet or offcut: larch; board; came 2026-05-10; price 21", nil, false},
	{"photos", "photos", "text", "names of its photos", words("photo|pictures|picture|images|image"), false},
	{"notes", "notes", "text", "", words("note|remarks|remark|comment|comments|bemerkung|bemerkungen|notiz|remarques|notas"), false},
	{"home", "lives in", "text", "address of the place, and the spot in it in mm", words("home|place|location|where|lives|stored|lagerort|ort|platz|fach|emplacement|lugar"), false},
	{"lies", "lying in", "text", "address of the place in which it lies without a spot of its own", nil, false},
	{"size", "size", "text", "sides in one cell, as 360 x 65 x 140", words("dimensions|dims|measurements|measures|l x w x h|w x h x d|lxwxh|wxhxd|maße|masse|abmessungen|medidas"), true},
	{"length", "length", "length", "the longest side", words("l|long|länge|longueur|largo"), true},
	{"line", "line", "text", "a whole line, as on the list", nil, true},
}

func words(s string) []string { return strings.Split(s, "|") }

// column by its field; nil when there is none.
func column(field string) *Column {
	i := slices.IndexFunc(Columns, func(c Column) bool { return c.Field == field })
	if i < 0 {
		return nil
	}
	return &Columns[i]
}

// Units a column of lengths or weights may be in; the first is that of the shop file.
var (
	LengthUnits = []string{"mm", "cm", "m", "in", "ft"}
	WeightUnits = []string{"kg", "g", "lb", "oz"}
)

var unitWords = map[string]string{
	"mm": "mm", "millimetres": "mm", "millimeters": "mm", "cm": "cm", "centimetres": "cm", "centimeters": "cm", "m": "m", "metres": "m", "meters": "m",
	"in": "in", "inch": "in", "inches": "in", `"`: "in", "ft": "ft", "feet": "ft", "foot": "ft",
	"kg": "kg", "kilos": "kg", "g": "g", "grams": "g", "lb": "lb", "lbs": "lb", "pounds": "lb", "oz": "oz", "ounces": "oz",
}

// Letter is the name of a column in a spreadsheet: 0 is A, 26 is AA.
func Letter(column int) string {
	name := ""
	for n := column + 1; n > 0; n = (n - 1) / 26 {
		name = string(rune('A'+(n-1)%26)) + name
	}
	return name
}

// heading looks for the column a heading names, and the unit that stands in it.
// Sure is false when a slip was forgiven.
func heading(text string) (c *Column, unit string, sure bool) {
	parts := strings.FieldsFunc(strings.ToLower(text), func(r rune) bool { return !unicode.IsLetter(r) && !unicode.IsDigit(r) && r != '"' })
	for try := 0; try < 2; try++ {
		if len(parts) == 0 {
			return nil, unit, false
		}
		if c, sure := named(strings.Join(parts, " ")); c != nil {
			return c, unit, sure
		}
		// "weight in kg", "Width (in)": a unit at the end is not part of the name.
		u, ok := unitWords[parts[len(parts)-1]]
		if !ok {
			break
		}
		unit, parts = u, parts[:len(parts)-1]
		if n := len(parts); n > 1 && parts[n-1] == "in" {
			parts = parts[:n-1]
		}
		if len(parts) == 0 && slices.Contains(WeightUnits, u) {
			return column("kg"), u, true // a column headed kg
		}
	}
	return nil, unit, false
}

func named(text string) (*Column, bool) {
	for i := range Columns {
		c := &Columns[i]
		if text == c.Title || text == strings.ReplaceAll(c.Field, "_", " ") || slices.Contains(c.names, text) {
			return c, true
		}
	}
	if len([]rune(text)) < 6 {
		return nil, false
	}
	for i := range Columns {
		c := &Columns[i]
		for _, n := range append([]string{c.Title}, c.names...) {
			if len([]rune(n)) >= 6 && find.Distance([]rune(text), []rune(n), 1) <= 1 {
				return c, false
			}
		}
	}
	return nil, false
}

// Fault of a cell: which, and what would be right.
type Fault struct {
	Row    int    `json:"row" doc:"of the sheet, from 1"`
	Column int    `json:"column" doc:"of the sheet, from 0"`
	Letter string `json:"letter" doc:"the column as spreadsheets call it"`
	Field  string `json:"field"`
	Text   string `json:"text" doc:"what stands there"`
	Why    string `json:"why"`
}

func (f Fault) Error() string {
	return fmt.Sprintf("row %d, column %s: %s", f.Row, f.Letter, f.Why)
}

// units a shop's own tables are written in.
func units(s *shop.Shop) (lengths, weights string) {
	if s.Settings.Units == length.Imperial {
		return "in", "lb"
	}
	return "mm", "kg"
}
