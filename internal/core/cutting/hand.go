package cutting

// InHand is how large the largest piece in the hand is, m²: before the first cut, and after each. The cuts are made as they are
// numbered.
func (p *Piece) InHand(kerf float64) []float64 {
	l, w := p.L-2*p.Trim, p.W-2*p.Trim
	there := map[int][2]float64{0: {l, w}}
	out := []float64{l * w / 1e6}
	for _, c := range p.Cuts {
		of := there[c.Of]
		delete(there, c.Of)
		a, b := of, of
		if c.Along == "l" {
			a[1], b[1] = c.At, max(0, of[1]-c.At-kerf)
		} else {
			a[0], b[0] = c.At, max(0, of[0]-c.At-kerf)
		}
		there[c.Gives[0]], there[c.Gives[1]] = a, b
		most := 0.0
		for _, x := range there {
			most = max(most, x[0]*x[1]/1e6)
		}
		out = append(out, most)
	}
	return out
}
