package e2e

import (
	"os"
	"testing"

	"hobrak/demo"
)

// TestShots refreshes the pictures of docs/screenshots; see make shots.
func TestShots(t *testing.T) {
	if os.Getenv("HOBRAK_SHOTS") == "" {
		t.Skip("no folder for pictures in HOBRAK_SHOTS")
	}
	p := open(t, "/round", demo.Slipway)
	p.key("]")
	p.wait(`document.querySelector('[role=slider]').getAttribute('aria-valuenow') > 4500`)
	p.shot("round")

	p.key("1")
	p.key("l")
	p.shot("round-lamp-off")
	p.key("l")
	p.key("1")

	p.key("f")
	p.wait(`document.querySelector('aside h2')?.textContent === 'The plan'`)
	p.shot("fit")
	p.button("Discard")

	p.key("/")
	p.key("dovtail saw")
	p.wait(`document.querySelector('[role=option]')`)
	p.key("\r")
	p.wait(`document.querySelector('[data-testid=mark]') && document.querySelector('[data-testid=walking-line]')`)
	p.key("/")
	p.wait(`document.querySelector('[role=option]')`)
	p.shot("find")
}
