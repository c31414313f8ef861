package line

import "regexp"

// How people write sizes, weights, counts and how often, and the words that
// mean something in a line.

const (
	num  = `(?:\d+\s+\d+/\d+|\d+-\d+/\d+|\d+/\d+|\d+[.,]\d+|\d*[½¼¾⅓⅔⅛⅜⅝⅞]|\d+)`
	unit = `(?:mm|cm|m|inches|inch|in|ft|''|"|″|”|'|′|’)`
	// One length, feet and inches too.
	long  = num + `\s*(?:` + unit + `\b|["″”'′’])?(?:\s*` + num + `\s*(?:"|″|”|in\b))?`
	times = `\s*(?:x|×|\*|by)\s*`
)

var (
	sizes    = regexp.MustCompile(`(?i)(^|[\s,;(])(` + long + `)` + times + `(` + long + `)(?:` + times + `(` + long + `))?(?:\s*(mm|cm|m|inches|inch|in|ft)\b)?`)
	spelt    = regexp.MustCompile(`(?i)(?:^|[\s,;(])((?:~\s*|about\s+|approx\.?\s+)?(` + long + `)\s+(long|wide|high|tall|deep|thick))\b`)
	weights  = regexp.MustCompile(`(?i)(^|[\s,;])(\d+(?:[.,]\d+)?\s*(?:kgs?|kilos?|g|grams?|lbs?|pounds?|oz|ounces?)(?:\s*\d+(?:[.,]\d+)?\s*oz)?)($|[\s,;.])`)
	contents = regexp.MustCompile(`(?i)(^|[\s,;])(\d+)\s+in\s+(?:an?\s+)?(box|case|tin|roll|drawer|set|tray|bag|tub|jar|holder|rack)\b`)
	rates    = regexp.MustCompile(`(?i)(^|[\s,;])((\d+(?:[.,]\d+)?)\s*(?:x|×|times)?\s*(?:a|an|per|each|/)\s*(day|week|month|year)|(once|twice|three times)\s+(?:a|per|each|every)\s+(day|week|month|year))($|[\s,;.])`)
	counted  = regexp.MustCompile(`(?i)^\s*(?:(\d{1,4})\s*(?:x|×|off|pcs|pieces)?\s+|(?:x|×)\s*(\d{1,4})\s+|(a\s+pair\s+of|pair\s+of|a\s+dozen|dozen|two|three|four|five|six|seven|eight|ten|twelve)\s+)`)
	countEnd = regexp.MustCompile(`(?i)(^|[\s,;])(?:[x×]\s?(\d{1,4})|(\d{1,4})\s?(?:x|×|off|pcs|pieces))($|[\s,;.])`)
	keyed    = regexp.MustCompile(`(?i)(^|[\s,;])((family|fam|kind|called|name|count|uses|weight|wide|high|deep)\s*[:=]\s*("[^"]*"|[^\s,;]+))`)
	at       = regexp.MustCompile(`(^|[\s,;])@\s?([\p{L}\p{N}_.\-]+)`)
	hashed   = regexp.MustCompile(`(^|[\s,;])#([\p{L}\-]+)`)
	volumes  = regexp.MustCompile(`(?i)(^|[\s,;])(\d+(?:[.,]\d+)?\s*(?:ml|cl|l|litres?|liters?|gal|gallons?|qt|pt|fl oz))($|[\s,;.])`)
	number   = regexp.MustCompile(`^` + num + `$`)
	measured = regexp.MustCompile(`(?i)^` + num + `(?:mm|cm|m|in|ft|"|″|”|'|′|’)$`)
	lastUnit = regexp.MustCompile(`(?i)` + unit + `\s*$`)
	sayable  = regexp.MustCompile(`[\p{L}\p{N}]`)
	spelled  = []struct {
		as   *regexp.Regexp
		unit string
	}{{regexp.MustCompile(`(?i)kilos?|kgs`), "kg"}, {regexp.MustCompile(`(?i)grams?`), "g"}, {regexp.MustCompile(`(?i)pounds?|lbs`), "lb"}, {regexp.MustCompile(`(?i)ounces?`), "oz"}}
)

// lengthUnits that may stand apart from their number.
var lengthUnits = []string{"mm", "cm", "m", "in", "inch", "inches", "ft", `"`}

// how often, a week.
var often = map[string]float64{"constantly": 10, "always": 10, "hourly": 10, "daily": 5, "everyday": 5, "often": 2, "weekly": 1, "fortnightly": .5, "monthly": .25, "quarterly": .08, "sometimes": .25, "seldom": .08, "yearly": .02, "annually": .02, "rarely": .01, "never": .01}

var phrases = []struct {
	text string
	uses float64
}{{"each day", 5}, {"every day", 5}, {"all the time", 10}, {"every week", 1}, {"each week", 1}, {"every month", .25}, {"each month", .25}, {"every year", .02}, {"a few times a year", .08}, {"hardly ever", .01}, {"once in a while", .08}, {"every session", 4}}

var perWeek = map[string]float64{"day": 5, "week": 1, "month": .25, "year": 1.0 / 52}

var holding = map[string]string{"hang": "hang", "hangs": "hang", "hanging": "hang", "hung": "hang", "stand": "stand", "stands": "stand", "standing": "stand", "flat": "flat", "lying": "flat", "lies": "flat", "slot": "slot", "slots": "slot", "slotted": "slot",
	"lean": "lean", "leans": "lean", "leaning": "lean", "arms": "arms", "bin": "bin", "magnet": "magnet", "magnetic": "magnet", "rolled": "roll", "roll": "roll"}

var flagWords = map[string]string{"sharp": "sharp", "fragile": "fragile", "delicate": "fragile", "dust": "dust", "dust-free": "dust", "freeze": "freeze", "frost": "freeze", "flammable": "flammable", "inflammable": "flammable", "child": "child", "childproof": "child",
	"rust": "rust", "rusts": "rust", "fades": "fades", "show": "show", "dull": "dull", "blunt": "dull", "lent": "lent", "heavy-handed": "heavy-handed", "charger": "charger"}

var amounts = map[string]int{"a pair of": 2, "pair of": 2, "a dozen": 12, "dozen": 12, "two": 2, "three": 3, "four": 4, "five": 5, "six": 6, "seven": 7, "eight": 8, "ten": 10, "twelve": 12}
