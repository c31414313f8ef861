package exchange

import (
	"fmt"
	"html/template"
	"io"

	"hobrak/internal/core/check"
	"hobrak/internal/core/length"
	"hobrak/internal/core/review"
	"hobrak/internal/core/say"
)

// pageStyle is all a page needs to look as it should by itself, on a screen and on paper.
const pageStyle = `body{font:15px/1.45 Georgia,serif;max-width:46em;margin:2em auto;padding:0 1em;color:#1d2b26;background:#fff}h1{font-size:1.7em;margin:0 0 .2em}h2{font-size:1.15em;margin:1.6em 0 .4em;border-bottom:1px solid #1d2b26}
table{border-collapse:collapse;width:100%}td,th{padding:.25em .6em .25em 0;text-align:left;border-bottom:1px solid #d8cfbd;vertical-align:top}td.n,th.n{text-align:right;font-variant-numeric:tabular-nums}li{margin:.3em 0}.do{color:#4d5a54}@media print{body{margin:0;max-width:none}}`

var reviewPage = template.Must(template.New("review").Parse(`<!doctype html><html lang="en"><meta charset="utf-8"><meta name="viewport" content="width=device-width"><title>A shop, {{.From}} to {{.To}}</title><style>` + pageStyle + `</style>
<h1>A shop, {{.From}} to {{.To}}</h1><p>What changed in it, by the numbers. An opinion is welcome: what would you move, let go of, or leave as it is?</p>
<h2>Figures</h2><table><tr><th></th><th class="n">then</th><th class="n">now</th></tr>{{range .Figures}}<tr><td>{{.Name}}</td><td class="n">{{.Then}}</td><td class="n">{{.Now}}</td></tr>{{end}}</table>
<h2>Ten questions</h2><ol>{{range .Asked}}<li><b>{{.Asks}}</b> {{.Says}}.</li>{{end}}</ol>
<h2>Aims</h2>{{if .Aims}}<ul>{{range .Aims}}<li>{{.Name}}: {{.State}}</li>{{end}}</ul>{{else}}<p>None was written down.</p>{{end}}
<h2>What came, went and moved</h2><p>{{.Came}} came, {{.Went}} went, {{.Moved}} moved, {{.Same}} live where they did.</p>
{{range .Lists}}{{if .Names}}<p><b>{{.Called}}:</b> {{range $i, $n := .Names}}{{if $i}}, {{end}}{{$n}}{{end}}</p>{{end}}{{end}}
</html>`))

// reviewed is a review as its page writes it.
type reviewed struct {
	From, To                string
	Figures                 []written
	Asked                   []review.Answer
	Aims                    []judged
	Came, Went, Moved, Same int
	Lists                   []named
}

type written struct{ Name, Then, Now string }

type judged struct{ Name, State string }

type named struct {
	Called string
	Names  []string
}

// figure of a review in words, in a system of units.
func figure(what string, v float64, units length.System) string {
	switch what {
	case "handling":
		return fmt.Sprintf("%.0f min", v/60)
	case "open-floor", "unused-m2", "household", "creep":
		return say.In(units, length.Area(v*1e6))
	case "untouched", "in-order":
		return fmt.Sprintf("%.0f %%", 100*v)
	}
	return fmt.Sprintf("%.0f", v)
}

// mostListed of the names a page lists.
const mostListed = 60

// WriteReview writes a review as one HTML page that needs nothing beside it. It names things and places, and nobody: no person, no
// address, no note, no photo.
func WriteReview(w io.Writer, r *review.Review, units length.System) error {
	x := reviewed{From: r.From, To: r.To, Came: len(r.Came), Went: len(r.Went), Moved: len(r.Moved), Same: r.Same}
	for _, a := range r.Asked {
		a.Says = say.In(units, a.Says)
		x.Asked = append(x.Asked, a)
	}
	for _, p := range r.Figures {
		x.Figures = append(x.Figures, written{p.Called, figure(p.What, p.Then, units), figure(p.What, p.Now, units)})
	}
	for _, a := range r.Aims {
		state := "missed"
		switch {
		case a.State == "dropped":
			state = "dropped"
		case a.Reached:
			state = "reached"
		case a.Open:
			state = "open"
		}
		x.Aims = append(x.Aims, judged{a.Name, state})
	}
	for _, l := range []struct {
		called string
		list   []review.Change
	}{{"Came", r.Came}, {"Went", r.Went}, {"Moved", r.Moved}} {
		n := named{Called: l.called}
		for i, c := range l.list {
			if i == mostListed {
				n.Names = append(n.Names, fmt.Sprintf("and %d more", len(l.list)-mostListed))
				break
			}
			n.Names = append(n.Names, c.Name)
		}
		x.Lists = append(x.Lists, n)
	}
	return reviewPage.Execute(w, x)
}

var cautionPage = template.Must(template.New("cautions").Parse(`<!doctype html><html lang="en"><meta charset="utf-8"><meta name="viewport" content="width=device-width"><title>Beside the door</title><style>` + pageStyle + `</style>
<h1>Beside the door</h1><p>{{.Name}}, {{.Day}}. What a list can say; local rules, the makers of machines and licensed people come first.</p>
<h2>Before you leave</h2><ul>{{range .Leaving}}<li>{{.}}</li>{{end}}</ul>
<h2>To mind</h2>{{if .Found}}<ul>{{range .Found}}<li>{{.}}</li>{{end}}</ul>{{else}}<p>Nothing that is on record.</p>{{end}}
<h2>Always</h2><ul>{{range .Always}}<li>{{.}}</li>{{end}}</ul></html>`))

// always are the cautions that hold for every shop.
var always = []string{
	"Oily rags heat by themselves: flat outdoors or in closed metal, never in a heap.",
	"Pull the plug before you touch a blade, a knife or a belt.",
	"Collect dust where it comes up, clean the air after, and wear a mask when you blow or sweep it up.",
	"Ear and eye protection for everybody who is in the room; a radio under the muffs hides a cry.",
	"Nothing charges and no heater runs while nobody is there.",
	"Straps of respirators and their cartridges have dates, and so have extinguishers and first-aid boxes.",
	"What is past its date of glue, finish and solvent goes where your council takes it.",
	"An hour in one posture is enough: stand up, stretch, look far.",
}

// WriteCautions writes all cautions of a shop as one page to print beside the door, each once.
func WriteCautions(w io.Writer, called, day string, leaving []string, found []check.Finding, units length.System) error {
	x := struct {
		Name, Day string
		Leaving   []string
		Found     []string
		Always    []string
	}{called, day, leaving, nil, always}
	seen := map[string]bool{}
	for _, f := range found {
		text := say.In(units, f.What)
		if !seen[text] {
			seen[text] = true
			x.Found = append(x.Found, text)
		}
	}
	return cautionPage.Execute(w, x)
}
