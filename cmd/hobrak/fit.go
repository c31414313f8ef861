package main

import (
	"context"
	"encoding/csv"
	"errors"
	"fmt"
	"io"
	"os"
	"os/signal"
	"path/filepath"
	"strconv"
	"time"

	"github.com/spf13/cobra"

	"hobrak/internal/core/fit"
	"hobrak/internal/core/propose"
	"hobrak/internal/core/say"
	"hobrak/internal/core/scene"
	"hobrak/internal/core/shop"
)

// inModes is a shop in one mode, as it stands (now), or in all its modes by their hours.
func inModes(s *shop.Shop, mode string) (*scene.Scenes, error) {
	switch mode {
	case "":
		return scene.ByHours(s)
	case "now":
		return scene.AsItStands(s)
	}
	return scene.Of(s, mode)
}

func fitCommand() *cobra.Command {
	var in, out, costs, mode string
	var seconds float64
	var o fit.Options
	c := &cobra.Command{
		Use:   "fit --shop FILE --out FILE",
		Short: "Find a home for every item and write the plan as a shop file",
		Args:  cobra.NoArgs,
		RunE: func(c *cobra.Command, _ []string) error {
			started := time.Now()
			if seconds <= 0 {
				return &exit{code: exitInput, err: fmt.Errorf("--seconds %v: give the search more than 0 seconds", seconds)}
			}
			s, err := readShop(in)
			if err != nil {
				return err
			}
			ctx, stop := signal.NotifyContext(context.Background(), os.Interrupt)
			defer stop()
			// What is left after reading and before writing.
			deadline := started.Add(time.Duration(seconds*.93*float64(time.Second)) - 20*time.Millisecond)
			o.Done = func() bool { return ctx.Err() != nil || time.Now().After(deadline) }
			o.Hurry = func() bool { return ctx.Err() != nil }
			all := deadline.Sub(started).Seconds()
			o.Spent = func() float64 { return time.Since(started).Seconds() / all }
			scenes, err := inModes(s, mode)
			if err != nil {
				return &exit{code: exitInput, err: fmt.Errorf("--mode: %w", err)}
			}
			e, err := fit.In(scenes, func() bool { return ctx.Err() != nil })
			if errors.Is(err, fit.ErrStopped) {
				return &exit{code: exitBroken, err: fmt.Errorf("%w; nothing was written", err)}
			}
			if err != nil {
				return &exit{code: exitInput, err: err}
			}
			if costs != "" {
				if err := writeFile(costs, func(w io.Writer) error { return writeCosts(w, e.Costs()) }); err != nil {
					return &exit{code: exitInternal, err: err}
				}
			}
			plan := e.Run(o)
			if err := plan.Contradiction(); err != nil {
				return &exit{code: exitInternal, err: fmt.Errorf("%w; nothing was written", err)}
			}
			if err := propose.Answer(s, plan, func() bool { return ctx.Err() != nil || time.Since(started).Seconds() > seconds }); err != nil {
				return &exit{code: exitInternal, err: err}
			}
			result := plan.Apply(s)
			result.Fit.Millis = time.Since(started).Milliseconds()
			if err := writeFile(out, func(w io.Writer) error { _, err := w.Write(shop.Write(result)); return err }); err != nil {
				return &exit{code: exitInternal, err: err}
			}
			summarize(c.ErrOrStderr(), s, result)
			byModes(c.ErrOrStderr(), scenes, s.Homes, plan.Homes)
			if len(plan.Homeless) > 0 {
				return &exit{code: exitBroken, quiet: true, err: errors.New("some things have no home")}
			}
			return nil
		},
	}
	c.Flags().StringVar(&in, "shop", "", "shop file to read")
	c.Flags().StringVar(&out, "out", "", "where the plan is written")
	c.Flags().StringVar(&costs, "costs", "", "where to write what every item would cost in every place, as CSV")
	c.Flags().StringVar(&mode, "mode", "", "the one mode things are to be got at in; now: as the floor stands; all modes by their hours when left out")
	c.Flags().Float64Var(&seconds, "seconds", 2, "how long to search at most")
	c.Flags().Uint64Var(&o.Seed, "seed", 1, "seed of the search; the same seed and iterations give the same plan")
	c.Flags().IntVar(&o.Iterations, "iterations", 0, "how many improvements to try at most; 0 chooses by the size of the shop")
	c.Flags().IntVar(&o.Moves, "moves", 0, "how many things may move at most; 0: all")
	c.Flags().BoolVar(&o.KeepHomes, "keep-homes", false, "leave every home as it is and place only what has none")
	required(c, "shop", "out")
	return c
}

// byModes says what homes mean in each mode.
func byModes(w io.Writer, scenes *scene.Scenes, before, after []shop.Home) {
	for i := range scenes.All {
		if x := &scenes.All[i]; x.Mode != "" {
			fmt.Fprintf(w, "%s (%.0f %% of the hours): %s as it stands, %s in the plan\n", x.Name, 100*x.Share, clock(x.Week(before)), clock(x.Week(after)))
		}
	}
}

func required(c *cobra.Command, flags ...string) {
	for _, f := range flags {
		if err := c.MarkFlagRequired(f); err != nil {
			panic(err)
		}
	}
}

// writeFile writes beside the target and moves it there, so that a half-written
// file never replaces a good one. What is in a shop is its owner's: nobody else may read the file.
func writeFile(path string, write func(io.Writer) error) error {
	f, err := os.CreateTemp(filepath.Dir(path), ".hobrak-*")
	if err != nil {
		return fmt.Errorf("writing %s: %w", path, err)
	}
	defer os.Remove(f.Name())
	if err := write(f); err != nil {
		f.Close()
		return fmt.Errorf("writing %s: %w", path, err)
	}
	if err := f.Close(); err != nil {
		return fmt.Errorf("writing %s: %w", path, err)
	}
	return os.Rename(f.Name(), path)
}

func writeCosts(w io.Writer, costs []fit.Alone) error {
	out := csv.NewWriter(w)
	if err := out.Write([]string{"item", "place", "seconds_per_week"}); err != nil {
		return err
	}
	for _, a := range costs {
		if err := out.Write([]string{a.Item, a.Place, strconv.FormatFloat(a.SecondsPerWeek, 'f', 3, 64)}); err != nil {
			return err
		}
	}
	out.Flush()
	return out.Error()
}

func summarize(w io.Writer, before, after *shop.Shop) {
	f := after.Fit
	lines := 0
	for i := range before.Items {
		if before.Items[i].Needs() {
			lines++
		}
	}
	fmt.Fprintf(w, "%s: %d of %d lines have a home\n", before.Settings.Name, lines-len(f.Homeless), lines)
	share := 0.0
	if f.Before > 0 {
		share = 100 * (f.Before - f.Objective) / f.Before
	}
	fmt.Fprintf(w, "weekly handling %s as it stands, %s in the plan (%.1f %% less)\n", clock(f.Before), clock(f.Objective), share)
	fmt.Fprintf(w, "no plan for these places costs less than %s: at most %.1f %% from the best possible\n", clock(f.Bound), 100*f.Gap)
	for _, h := range f.Homeless {
		fmt.Fprintf(w, "no home: %s: %s", h.Item, say.In(before.Settings.Units, h.Why))
		if h.SmallestChange != "" {
			fmt.Fprintf(w, "; %s", say.In(before.Settings.Units, h.SmallestChange))
		}
		fmt.Fprintln(w)
	}
	fmt.Fprintf(w, "%d improvements tried in %d ms, seed %d\n", f.Iterations, f.Millis, f.Seed)
}

// clock writes seconds as minutes and seconds.
func clock(s float64) string {
	return fmt.Sprintf("%d min %02d s", int(s)/60, int(s)%60)
}
