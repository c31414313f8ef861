package main

import (
	"encoding/json"
	"fmt"
	"os"
	"time"

	"github.com/spf13/cobra"

	"hobrak/internal/core/due"
	"hobrak/internal/core/month"
	"hobrak/internal/core/shop"
	"hobrak/internal/exchange"
)

func dueCommand() *cobra.Command {
	var file, day, ics string
	c := &cobra.Command{
		Use:   "due --shop FILE --day 2027-03-01 [--ics FILE]",
		Short: "List what is due on a day, as JSON; with --ics also write it, and what comes in the year after, as a calendar file",
		Args:  cobra.NoArgs,
		RunE: func(c *cobra.Command, _ []string) error {
			s, err := readShop(file)
			if err != nil {
				return err
			}
			valid := s.Events.Valid()
			out := valid.Outstanding()
			list, err := due.Of(s, due.NewTally(valid), out, day)
			if err != nil {
				return &exit{code: exitInput, err: fmt.Errorf("--day: %w", err)}
			}
			if ics != "" {
				at, err := time.Parse(time.DateOnly, day)
				if err != nil {
					return &exit{code: exitInput, err: fmt.Errorf("--day: %w", err)}
				}
				ahead, err := due.Ahead(s, out, day, at.AddDate(1, 0, 0).Format(time.DateOnly))
				if err != nil {
					return &exit{code: exitInput, err: err}
				}
				f, err := os.Create(ics)
				if err != nil {
					return &exit{code: exitInput, err: fmt.Errorf("--ics: %w", err)}
				}
				if err := exchange.WriteCalendar(f, s.Settings.Name, append(list, ahead...), at); err != nil {
					_ = f.Close()
					return &exit{code: exitInternal, err: err}
				}
				if err := f.Close(); err != nil {
					return &exit{code: exitInternal, err: err}
				}
			}
			return printed(c, s, list)
		},
	}
	c.Flags().StringVar(&file, "shop", "", "shop file to read")
	c.Flags().StringVar(&day, "day", time.Now().Format(time.DateOnly), "day as 2027-03-01; today when left out")
	c.Flags().StringVar(&ics, "ics", "", "calendar file to write")
	required(c, "shop")
	return c
}

func monthCommand() *cobra.Command {
	var file, jobs string
	o := month.Options{}
	c := &cobra.Command{
		Use:   "month --shop FILE [--jobs J.json] [--replications 1000] [--seed 1]",
		Short: "Play a month through many times: handling, ways and change-overs with their spread, and what is never used, as JSON",
		Args:  cobra.NoArgs,
		RunE: func(c *cobra.Command, _ []string) error {
			s, err := readShop(file)
			if err != nil {
				return err
			}
			if jobs != "" {
				raw, err := os.ReadFile(jobs)
				if err != nil {
					return &exit{code: exitInput, err: fmt.Errorf("--jobs: %w", err)}
				}
				var list []shop.Job
				if err := json.Unmarshal(raw, &list); err != nil {
					return &exit{code: exitInput, err: fmt.Errorf("--jobs: a list of jobs as in the shop file: %w", err)}
				}
				o.Jobs = list
			}
			if o.Replications < 1 || o.Replications > 1_000_000 {
				return &exit{code: exitInput, err: fmt.Errorf("--replications: %d should be from 1 to 1 000 000", o.Replications)}
			}
			p, err := month.Of(s, o)
			if err != nil {
				return &exit{code: exitInput, err: err}
			}
			return printed(c, s, p)
		},
	}
	c.Flags().StringVar(&file, "shop", "", "shop file to read")
	c.Flags().StringVar(&jobs, "jobs", "", "jobs to play instead of the shop's own: a list as in the shop file")
	c.Flags().IntVar(&o.Replications, "replications", 1000, "months to play")
	c.Flags().Uint64Var(&o.Seed, "seed", 1, "the same seed gives the same months")
	required(c, "shop")
	return c
}
