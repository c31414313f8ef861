//go:build race

package api_test

import "testing"

// oneAfterTheOther leaves a test out under the race detector, which makes it ten times slower and finds nothing
// where one request follows another; make test runs the package without the detector as well.
func oneAfterTheOther(t *testing.T) {
	t.Helper()
	t.Skip("one request after the other: run without the race detector")
}
