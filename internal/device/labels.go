package device

import (
	"bytes"
	"image"
	"image/png"
	"sync"
)

// LabelPrinter prints labels one by one, from a roll.
type LabelPrinter interface {
	// Name is shown to people.
	Name() string
	// Simulated tells whether no real printer is behind it.
	Simulated() bool
	// Sharp is how many dots it has a mm.
	Sharp() float64
	// Print one label: dots, black or not, and the size it is to have in mm.
	Print(dots *image.Paletted, w, h float64) error
}

// InTray is a label that was printed.
type InTray struct {
	N    int     `json:"n" doc:"its number, the first printed is 1"`
	W    float64 `json:"w" doc:"mm"`
	H    float64 `json:"h" doc:"mm"`
	file []byte
}

// mostInTray lie in the tray; older ones fall out.
const mostInTray = 60

// Tray is a printer that prints into a tray one can look at, where there is no real one.
type Tray struct {
	mu   sync.Mutex
	last int
	list []InTray
}

// Name of the printer.
func (*Tray) Name() string { return "Simulated label printer" }

// Simulated is true.
func (*Tray) Simulated() bool { return true }

// Sharp is what printers of labels usually have: 203 dots an inch.
func (*Tray) Sharp() float64 { return 8 }

// Print puts a label into the tray.
func (t *Tray) Print(dots *image.Paletted, w, h float64) error {
	var b bytes.Buffer
	if err := png.Encode(&b, dots); err != nil {
		return err
	}
	t.mu.Lock()
	defer t.mu.Unlock()
	t.last++
	t.list = append(t.list, InTray{t.last, w, h, b.Bytes()})
	t.list = t.list[max(0, len(t.list)-mostInTray):]
	return nil
}

// List what lies in the tray, the newest first.
func (t *Tray) List() []InTray {
	t.mu.Lock()
	defer t.mu.Unlock()
	out := []InTray{}
	for i := len(t.list) - 1; i >= 0; i-- {
		out = append(out, t.list[i])
	}
	return out
}

// Picture of a label in the tray, PNG; nil when it is not there.
func (t *Tray) Picture(n int) []byte {
	t.mu.Lock()
	defer t.mu.Unlock()
	for i := range t.list {
		if t.list[i].N == n {
			return t.list[i].file
		}
	}
	return nil
}
