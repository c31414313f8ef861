package exchange

// Run is a run of a text in one typeface, for tests.
type Run struct {
	Text string
	Has  func(rune) bool
}

// Runs sets a text in plain letters.
func Runs(text string) (out []Run) {
	for _, r := range runs(text, false) {
		out = append(out, Run{r.text, r.face.has})
	}
	return out
}
