package event_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"hobrak/internal/core/event"
)

func TestWhatIsTakenBackDidNotHappen(t *testing.T) {
	l := event.Log{
		{ID: 1, At: "2026-11-01", What: event.Used, Item: "plane", N: 2},
		{ID: 2, At: "2026-11-03T09:00:00+01:00", What: event.Used, Item: "plane", Place: "B1"},
		{ID: 3, At: "2026-11-03T23:30:00+01:00", What: event.Taken, Item: "plane", N: 3},
		{ID: 4, At: "2026-11-04", What: event.PutBack, Item: "plane"},
		{ID: 5, At: "2026-11-05", What: event.Used, Item: "saw"},
		{ID: 6, At: "2026-11-05", What: event.TakenBack, Corrects: 1},
	}
	assert.Equal(t, "2026-11-03", l.Began())
	assert.Equal(t, map[string]string{"plane": "2026-11-03", "saw": "2026-11-05"}, l.Last())
	assert.Equal(t, map[string]int{"plane": 4}, l.Uses("2026-11-02", "2026-11-04"), "what is taken is used")
	assert.Equal(t, map[string]int{"plane": 2}, l.Out(), "three taken, one back")
	assert.Len(t, l.Of(event.Filter{Place: "B1"}), 1)
	assert.Equal(t, int64(4), l.Of(event.Filter{Item: "plane"})[0].ID, "the newest first")
	// More put back than was taken: none is out.
	assert.Empty(t, append(l, event.Event{ID: 7, At: "2026-11-06", What: event.PutBack, Item: "plane", N: 9}).Out())
}

func TestAnEventThatSaysTooLittleIsRefusedAtItsField(t *testing.T) {
	for field, e := range map[string]event.Event{
		"what":     {At: "2026-11-01", What: "borrowed", Item: "plane"},
		"at":       {At: "yesterday", What: event.Used, Item: "plane"},
		"item":     {At: "2026-11-01", What: event.Taken},
		"note":     {At: "2026-11-01", What: event.Noted},
		"corrects": {At: "2026-11-01", What: event.TakenBack},
	} {
		at, says := e.Check()
		assert.Equal(t, field, at)
		assert.NotEmpty(t, says)
	}
	at, _ := (&event.Event{At: "2026-11-01", What: event.Used, Item: "plane", Corrects: 3}).Check()
	assert.Equal(t, "corrects", at)
	at, _ = (&event.Event{At: "2026-11-01T08:00:00Z", What: event.Noted, Note: "swept"}).Check()
	assert.Empty(t, at)
}
