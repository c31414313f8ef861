package reach

// Access is what must be done to get at what is in something. What is known of each
// is one line of the table below.
type Access string

// The accesses there are; the empty one is open, too.
const (
	Open    Access = "open"
	Door    Access = "door"
	Drawer  Access = "drawer"
	Lid     Access = "lid"
	RollOut Access = "roll-out"
	Hoist   Access = "hoist"
)

var accesses = []struct {
	name Access
	// seconds it takes, of the estimates.
	seconds func(*Estimates) float64
	// hides: what is behind it is out of sight. Steps are those an order of retrieval
	// counts: one for what is opened with a hand, far for what must be moved.
	hides bool
	steps int
	says  string // what one does
}{
	{Open, func(*Estimates) float64 { return 0 }, false, 0, ""},
	{Door, func(e *Estimates) float64 { return e.Door }, true, 1, "open the door"},
	{Drawer, func(e *Estimates) float64 { return e.Drawer }, true, 1, "pull out the drawer"},
	{Lid, func(e *Estimates) float64 { return e.Lid }, true, 2, "lift the lid"},
	{RollOut, func(e *Estimates) float64 { return e.RollOut }, false, far, "roll it out"},
	{Hoist, func(e *Estimates) float64 { return e.Hoist }, false, far, "let it down"},
}

// far is more steps than any that are opened on the way.
const far = 100

// Words of the accesses.
func (Access) Words() (out []string) {
	for _, a := range accesses {
		out = append(out, string(a.name))
	}
	return out
}

// Hides tells whether what is behind it is out of sight.
func (a Access) Hides() bool {
	for _, x := range accesses {
		if x.name == a {
			return x.hides
		}
	}
	return false
}

// Says what one does; empty when nothing.
func (a Access) Says() string {
	for _, x := range accesses {
		if x.name == a {
			return x.says
		}
	}
	return ""
}

// Free tells whether nothing must be done.
func (a Access) Free() bool { return a == "" || a == Open }

// Seconds it takes; 0 when it is not known.
func (a Access) Seconds(e *Estimates) float64 {
	for _, x := range accesses {
		if x.name == a {
			return x.seconds(e)
		}
	}
	return 0
}

func (a Access) steps() int {
	for _, x := range accesses {
		if x.name == a {
			return x.steps
		}
	}
	return 0
}
