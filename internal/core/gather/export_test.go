package gather

// Improved is the round by the rule of thumb, whatever the number of stops.
func Improved(n int, far func(i, j int) float64) []int { return improve(nearest(n, far), n, far) }
