package fit_test

import (
	"testing"

	"hobrak/internal/core/shoptest"
)

// TestMain tries fewer random shops than is usual, since each is planned several times over.
func TestMain(m *testing.M) { shoptest.Fewer(m, "30") }
