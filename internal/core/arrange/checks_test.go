package arrange_test

import (
	"testing"

	"hobrak/internal/core/shoptest"
)

// TestMain tries fewer random shops than is usual, since every arrangement of each is looked at.
func TestMain(m *testing.M) { shoptest.Fewer(m, "15") }
