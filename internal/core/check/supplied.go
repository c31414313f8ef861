package check

import (
	"slices"

	"hobrak/internal/core/shop"
	"hobrak/internal/core/supply"
)

// Supplied are the cautions about what the rooms supply: power, extraction, air, light, noise, and what can hurt somebody there; of each
// room as it stands and in each of its modes, what is said of it in several of them once. They take longer than the rest and are
// asked for apart.
func Supplied(s *shop.Shop) ([]Finding, error) {
	var out []Finding
	modes := []string{""}
	for i := range s.Modes {
		modes = append(modes, s.Modes[i].ID)
	}
	for i := range s.Areas {
		for _, mode := range modes {
			r, err := supply.Of(s, s.Areas[i].ID, mode)
			if err != nil {
				return nil, err
			}
			for _, c := range r.Cautions {
				if c.Code == "panel" || c.Code == "heater" { // the check has looked for that itself
					continue
				}
				f := Finding{Code: c.Code, Where: c.On, What: c.Says + ": " + c.Do}
				if f.Where == "" {
					f.Where = s.Areas[i].ID
				}
				if mode != "" {
					f.What = "in " + r.Name + ": " + f.What
				}
				if !slices.ContainsFunc(out, func(o Finding) bool { return o.Code == f.Code && o.Where == f.Where }) {
					out = append(out, f)
				}
			}
		}
	}
	return out, nil
}
