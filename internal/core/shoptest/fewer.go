package shoptest

import (
	"flag"
	"os"
	"testing"
)

// Fewer runs the tests of a package whose properties take long for each shop: so many random ones are tried unless a number is
// given; make check-long tries as many as is usual.
func Fewer(m *testing.M, checks string) {
	flag.Parse()
	given := false
	flag.Visit(func(f *flag.Flag) { given = given || f.Name == "rapid.checks" })
	if !given && os.Getenv("HOBRAK_LONG") == "" {
		_ = flag.Set("rapid.checks", checks)
	}
	os.Exit(m.Run())
}
