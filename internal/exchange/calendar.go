package exchange

import (
	"io"
	"time"

	ics "github.com/arran4/golang-ical"

	"hobrak/internal/core/due"
)

// WriteCalendar writes what is due and will be as a calendar file (RFC 5545), a whole day each; what is late stands on the day it is written,
// so that it is seen. Called is the name of the shop; a line of it has the same id each time, so that a calendar that is read again
// changes and does not double.
func WriteCalendar(w io.Writer, called string, list []due.Item, today time.Time) error {
	cal := ics.NewCalendar()
	cal.SetProductId("-//Hobrak//Upkeep//EN")
	cal.SetName(called + ": upkeep")
	cal.SetMethod(ics.MethodPublish)
	for i := range list {
		x := &list[i]
		day, err := time.Parse(time.DateOnly, x.Due)
		if err != nil {
			continue
		}
		if late := today.Format(time.DateOnly); x.Due < late {
			day, _ = time.Parse(time.DateOnly, late)
		}
		e := cal.AddEvent(string(x.What) + "-" + x.ID + "-" + x.Due + "@hobrak")
		e.SetDtStampTime(today)
		e.SetAllDayStartAt(day)
		e.SetAllDayEndAt(day.AddDate(0, 0, 1))
		e.SetSummary(x.Name)
		text := x.Says
		if x.Care != "" {
			text += ". " + x.Care
		}
		e.SetDescription(text)
		if x.Where != "" {
			e.SetLocation(x.Where)
		}
	}
	_, err := io.WriteString(w, cal.Serialize())
	return err
}
