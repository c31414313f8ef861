//go:build !race

package shoptest

import "testing"

// OneAfterTheOther leaves a test out under the race detector alone.
func OneAfterTheOther(*testing.T) {}
