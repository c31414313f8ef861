package shop

// Changes are the parts in which a shop differs from an earlier one, by id.
type Changes struct {
	Settings, Areas, Circuits, Stations, Containers, Modes, Kits, Targets bool
	Places, Items, Homes                                                  map[string]bool // homes by their item
}

// Note that a part of a list was changed. Lists are those of Lists.
func (c *Changes) Note(list, id string) {
	add := func(m *map[string]bool, id string) {
		if *m == nil {
			*m = map[string]bool{}
		}
		(*m)[id] = true
	}
	switch list {
	case "settings":
		c.Settings = true
	case "areas":
		c.Areas = true
	case "circuits":
		c.Circuits = true
	case "stations":
		c.Stations = true
	case "containers":
		c.Containers = true
	case "modes":
		c.Modes = true
	case "kits":
		c.Kits = true
	case "targets":
		c.Targets = true
	case "places":
		add(&c.Places, id)
	case "items":
		add(&c.Items, id)
	case "homes":
		add(&c.Homes, itemOf(id))
	}
}

// itemOf the id of a stored home: the item's and the number of the home.
func itemOf(home string) string {
	for i := len(home) - 1; i > 0; i-- {
		if home[i] == ' ' {
			return home[:i]
		}
	}
	return home
}
