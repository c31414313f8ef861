package upgrade

// usesBecomeEvents leads to version 2: the days on which an item was used were a list in
// it; now they are events beside the shop.
func usesBecomeEvents(list string, part map[string]any, more More) error {
	if list != "items" {
		return nil
	}
	log, _ := part["log"].([]any)
	delete(part, "log")
	for _, x := range log {
		use, ok := x.(map[string]any)
		if !ok {
			continue // what was no use never was
		}
		e := map[string]any{"at": use["day"], "what": "used", "item": part["id"]}
		if n, ok := use["times"]; ok {
			e["n"] = n
		}
		more("events", e)
	}
	return nil
}
