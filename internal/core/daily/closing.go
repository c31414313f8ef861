package daily

import (
	"fmt"
	"slices"
	"strings"

	"hobrak/internal/core/access"
	"hobrak/internal/core/event"
	"hobrak/internal/core/gather"
	"hobrak/internal/core/shop"
)

// atStations is what is looked at where something of a kind stands, before one leaves.
var atStations = []struct {
	kinds   string
	says    string
	caution bool
}{
	{"charger", "chargers off at the wall: no battery charges while nobody is here", true},
	{"stove", "stove out, its door and damper shut, ash in a closed metal pail outdoors", true},
	{"steam-box forge welder", "%s off and cool", true},
	{"compressor", "compressor off, its tank drained", false},
	{"extractor cyclone shop-vacuum", "%s: look into it, empty it when two thirds full", false},
	{"bins", "waste bins out when full", false},
	{"sink", "tap shut", false},
}

// Leaving is what there is to do before one leaves, but for what is put back.
func Leaving(s *shop.Shop) []gather.Chore {
	out := []gather.Chore{}
	add := func(id, station, says string, caution bool) {
		out = append(out, gather.Chore{ID: id, Station: station, Says: says, Caution: caution})
	}
	machines := false
	for i := range s.Stations {
		st := &s.Stations[i]
		if st.Wished != "" {
			continue
		}
		machines = machines || st.Amps > 0 || st.Feed != nil
		for _, x := range atStations {
			if slices.Contains(strings.Fields(x.kinds), string(st.Kind)) {
				says := x.says
				if strings.Contains(says, "%s") {
					says = fmt.Sprintf(says, st.Name)
				}
				add(st.ID, st.ID, says, x.caution)
			}
		}
	}
	rags, heater, charger := false, "", ""
	for i := range s.Items {
		it := &s.Items[i]
		switch {
		case strings.Contains(it.Kind, "rag"):
			rags = true
		case strings.Contains(it.Kind, "heater"):
			heater = it.Name
		case it.Flagged(shop.Charger):
			charger = it.Name
		}
	}
	if charger != "" && !slices.ContainsFunc(s.Stations, func(st shop.Station) bool { return st.Kind == "charger" }) {
		add("chargers", "", "chargers off at the wall: no battery charges while nobody is here", true)
	}
	if heater != "" {
		add("heater", "", heater+" off and unplugged", true)
	}
	if rags {
		add("rags", "", "oily rags flat outdoors or in a closed metal tin, never in a heap: they catch fire by themselves", true)
	}
	if m, err := s.Mode(s.Settings.Mode); s.Settings.Mode != "" && err == nil {
		for i := range s.Stations {
			st := &s.Stations[i]
			if _, moved := m.Spots[st.ID]; moved && st.Mobility.Aside() {
				add("back "+st.ID, st.ID, st.Name+" back to its spot", false)
			}
		}
	}
	if machines {
		add("machines", "", "machines unplugged or off at their breaker, keys out", true)
	}
	add("door", "", "windows shut, lights off, door locked", false)
	return out
}

// Closing is the round in the evening: what was taken is put back, what was lent stays out, and what must be off is looked at; in the
// order of one walk that begins at the main door.
func Closing(m *access.Map, out event.Log) gather.Round {
	n := map[string]int{}
	var order []string
	for _, e := range out {
		if e.What == event.Taken {
			if n[e.Item] == 0 {
				order = append(order, e.Item)
			}
			n[e.Item] += e.Number()
		}
	}
	wants := []gather.Want{}
	for _, id := range order {
		wants = append(wants, gather.Want{Item: id, N: n[id]})
	}
	return gather.Walk(m, "", wants, Leaving(m.Shop)...)
}
