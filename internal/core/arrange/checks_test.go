package arrange_test

import (
	"flag"
	"os"
	"testing"
)

// TestMain tries fewer random shops than is usual, since every arrangement of each is looked at; make check-long tries more.
func TestMain(m *testing.M) {
	flag.Parse()
	given := false
	flag.Visit(func(f *flag.Flag) { given = given || f.Name == "rapid.checks" })
	if !given && os.Getenv("HOBRAK_LONG") == "" {
		_ = flag.Set("rapid.checks", "15")
	}
	os.Exit(m.Run())
}
