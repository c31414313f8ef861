//go:build race

package shoptest

import "testing"

// OneAfterTheOther leaves a test out under the race detector, which makes it ten times slower and finds nothing
// where one step follows another; make test runs the packages without the detector as well.
func OneAfterTheOther(t *testing.T) {
	t.Helper()
	t.Skip("one step after the other: run without the race detector")
}
