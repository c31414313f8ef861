//go:build !race

package api_test

import "testing"

func oneAfterTheOther(*testing.T) {}
