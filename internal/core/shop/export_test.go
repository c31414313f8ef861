package shop

import (
	"encoding/json"

	"hobrak/internal/core/upgrade"
)

// ReadWith is Read with other steps between versions.
var ReadWith = readWith

// BroughtOn is a file after the steps, not yet bound.
func BroughtOn(steps upgrade.Steps, data []byte) (string, bool) {
	n := readNode(data, &Faults{})
	ok := bringOn(steps, n, &Faults{})
	raw, err := json.Marshal(n.plain())
	return string(raw), ok && err == nil
}
