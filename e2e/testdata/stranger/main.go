// Command stranger knows the API from its description alone: its client was generated
// from that. It finds its way from an empty-handed start to a plan that is taken over,
// and says what it did, a line each. The address of the server is its argument.
package main

import (
	"context"
	"fmt"
	"net/http"
	"os"
	"time"

	"hobrak/e2e/testdata/stranger/client"
)

func main() {
	if err := run(os.Args[1]); err != nil {
		fmt.Fprintln(os.Stderr, err)
		os.Exit(1)
	}
}

func run(url string) error {
	ctx, done := context.WithTimeout(context.Background(), time.Minute)
	defer done()
	c, err := client.NewClientWithResponses(url)
	if err != nil {
		return err
	}
	hang := client.ListItemsParamsHold("hang")
	items, err := c.ListItemsWithResponse(ctx, &client.ListItemsParams{Hold: &hang})
	if err != nil || items.JSON200 == nil {
		return fmt.Errorf("items: %w %s", err, items.Status())
	}
	fmt.Println("things that hang:", len(*items.JSON200))
	etag := items.HTTPResponse.Header.Get("ETag")
	one := (*items.JSON200)[0].Id
	line := "spokeshave 250x50x40 300 g weekly hang"
	added, err := c.AddItemsWithResponse(ctx, &client.AddItemsParams{IfMatch: &etag}, client.AddItemsRequest{Lines: []string{line}})
	if err != nil || added.JSON200 == nil {
		return fmt.Errorf("adding: %w %s %s", err, added.Status(), added.Body)
	}
	fmt.Println("added:", added.JSON200.Ids[0])
	// The same ETag again is stale, and the problem says so by its type.
	again, err := c.AddItemsWithResponse(ctx, &client.AddItemsParams{IfMatch: &etag}, client.AddItemsRequest{Lines: []string{line}})
	if err != nil {
		return err
	}
	if p := again.ApplicationproblemJSON412; again.StatusCode() != http.StatusPreconditionFailed || p == nil {
		return fmt.Errorf("a stale change was answered with %s", again.Status())
	} else {
		fmt.Println("refused:", *p.Type)
	}
	used := client.Happening{What: "used", Item: &one}
	noted, err := c.AddEventWithResponse(ctx, used)
	if err != nil || noted.JSON201 == nil {
		return fmt.Errorf("noting: %w %s %s", err, noted.Status(), noted.Body)
	}
	fmt.Println("noted:", noted.JSON201.What, noted.JSON201.Item != nil)
	seconds := 1.0
	job, err := c.PlanHomesWithResponse(ctx, client.HomesWanted{Seconds: &seconds})
	if err != nil || job.JSON202 == nil {
		return fmt.Errorf("planning: %w %s %s", err, job.Status(), job.Body)
	}
	plan := job.JSON202
	for plan.State != "done" {
		time.Sleep(100 * time.Millisecond)
		now, err := c.GetPlanWithResponse(ctx, plan.Id)
		if err != nil || now.JSON200 == nil {
			return fmt.Errorf("waiting: %w %s", err, now.Status())
		}
		plan = now.JSON200
	}
	fmt.Println("saves:", plan.Objective < plan.Before)
	base := fmt.Sprintf("%q", fmt.Sprint(plan.Base))
	taken, err := c.AcceptPlanWithResponse(ctx, plan.Id, &client.AcceptPlanParams{IfMatch: &base}, client.Taken{})
	if err != nil || taken.JSON200 == nil {
		return fmt.Errorf("accepting: %w %s %s", err, taken.Status(), taken.Body)
	}
	fmt.Println("moved:", taken.JSON200.Moved > 0)
	return nil
}
