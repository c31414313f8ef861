package api

import (
	"net/http"
	"strings"

	"github.com/danielgtaylor/huma/v2"
)

// Tags group the operations as a reader would look for them.
var tags = []*huma.Tag{
	{Name: "upkeep", Description: "What is due, edges, consumables, what waits, projects"},
	{Name: "review", Description: "Days that are kept and set side by side, a month played through, the next room"},
	{Name: "shop", Description: "The shop as a whole: its file, its revisions, undo, what it is like seen from its middle."},
	{Name: "areas", Description: "Rooms and other spots that store things: their survey, free walls, what goes in."},
	{Name: "items", Description: "Things: what they are, where they live, why, and where they might."},
	{Name: "places", Description: "Whatever holds things, with the containers and stations round it, and new storage."},
	{Name: "plans", Description: "Long work: a search for homes or storage waits its turn, tells how far it is, can be stopped, and leaves a plan that is compared, accepted or discarded."},
	{Name: "events", Description: "What happened, beside the shop: used, taken, put back, lent, moved. Only ever added to, outside undo."},
	{Name: "tables", Description: "Lists from elsewhere: CSV, text from a spreadsheet, workbooks."},
	{Name: "devices", Description: "A distance meter and a scale; phones and other devices that are let in beyond this machine."},
	{Name: "program", Description: "The program itself: is it there, which one, where it keeps the shop."},
}

// said is what is said of an operation beside its summary: its tag, what its answer depends
// on, and a description.
type said struct{ tag, of, text string }

const onRevision = " Say in If-Match on which revision: the ETag of what was looked at. It is refused with 412 and what happened since when the shop has moved on."

var descriptions = map[string]said{
	"round":              {"shop", ofShop, "Everything that is drawn: walls laid out side by side, what is on and before them, things as silhouettes at true size, with weekly handling and orders of retrieval. Lengths are mm, weights kg, times seconds a week."},
	"round-since":        {"shop", ofShop, "What is new or otherwise in the round since that of a revision; all of it when that is no longer known, or when it says it better."},
	"shop":               {"shop", ofEvents, "The shop file with its revision and all events; see docs/format."},
	"replace-shop":       {"shop", "", "The body is a shop file. One revision, which undo takes back; events of the file that are not there yet are added for good." + onRevision},
	"replace-shop-zip":   {"shop", "", "The body is a zip of shop.json and the folder photos, as an export gives it." + onRevision},
	"export":             {"shop", ofEvents, "As a download: csv or xlsx of the belongings, json for the shop file, zip with its photos."},
	"list-revisions":     {"shop", ofShop, "Who changed what and when, newest first, with the parts that were touched."},
	"get-revision":       {"shop", ofShop, "What a revision changed."},
	"go-back":            {"shop", "", "One change, which can be undone itself; what happened since stays in the history." + onRevision},
	"compare-revisions":  {"shop", live, "Added, gone, moved and changed, with the weekly handling at both moments."},
	"undo":               {"shop", "", "The newest change that was not undone. Events stay." + onRevision},
	"redo":               {"shop", "", "What was undone last, unless something else was done since." + onRevision},
	"changes":            {"shop", live, "A stream of server-sent events: revision whenever the shop changes, here or in another process; happened whenever an event was noted."},
	"check":              {"shop", ofShop, "Each finding says at which part, by how much, and whether it breaks a rule or is a caution. The usual caution only: local codes and licensed practice come first."},
	"find":               {"shop", ofShop, "Items, places, containers and stations by words of their names, with one slip forgiven; the best match first."},
	"working":            {"shop", ofShop, "Families and those that must stay together, prices of material, the modes of the floor."},
	"together":           {"shop", "", "Replaces the list." + onRevision},
	"prices":             {"shop", "", "A square metre of sheet and a metre of rail, in a currency of one's own; without them nothing is costed." + onRevision},
	"one-out":            {"shop", "", "Whether it is asked what leaves when something comes in." + onRevision},
	"facts":              {"shop", ofShop, "Fields in groups, each with what is said, what counts while nothing is, and what it does to the answers: units, people, what may be fixed, ways of working, room to keep free, estimates."},
	"try-facts":          {"shop", live, "The shop in a few figures as it is and as it would be. Nothing is changed."},
	"enter-facts":        {"shop", "", "Entries are a path and a text, as typed; people/+ adds somebody of that name. One that cannot be so is refused at its index and nothing is entered." + onRevision},
	"list-circuits":      {"shop", ofShop, "Electrical circuits that outlets belong to."},
	"get-circuit":        {"shop", ofShop, "One circuit of the installation."},
	"list-targets":       {"plans", ofShop, "Plans that were accepted or parked. The one that is carried out is named in the settings of the shop."},
	"get-target":         {"plans", ofShop, "One kept plan."},
	"keep-plan":          {"plans", "", "How things are then is kept as a target as well, to go back to." + onRevision},
	"target-round":       {"plans", ofShop, "Drawn like the round as it stands. 409 when the shop cannot be like that any more."},
	"change-target":      {"plans", "", "One target is carried out at a time." + onRevision},
	"drop-target":        {"plans", "", "Homes stay as they are." + onRevision},
	"evenings":           {"plans", live, "After each step nothing lies in anything else and nothing carries too much; what brings most a minute comes first. Made anew from how things are at each call."},
	"tick-step":          {"plans", "", "Refused with the reason when things are not as the step says. What happened is noted as an event." + onRevision},
	"leave-thing":        {"plans", "", "It is out of the target until that is said to be whole again." + onRevision},
	"pile":               {"plans", ofShop, "The largest things first, since they win most."},
	"decide":             {"plans", "", "What goes stays where it is until it is off the list; what lives elsewhere has no home until it gets one." + onRevision},
	"best-use":           {"plans", live, "Things without a home, swaps, and what gathers dust, by seconds saved a week for each minute."},
	"list-modes":         {"areas", ofShop, "Arrangements of the floor, with how many hours a week they last and where movable things stand in them."},
	"get-mode":           {"areas", ofShop, "One arrangement of the floor."},
	"keep-mode":          {"areas", "", "Everything that rolls or folds has its spot in it from then on." + onRevision},
	"forget-mode":        {"areas", "", "Places that could be reached in it alone can be reached always." + onRevision},
	"change-mode":        {"areas", "", "Find answers for the mode the floor is in now. The id - is how things stand." + onRevision},
	"set-spot":           {"areas", "", "On a spot of the floor, folded, hoisted or away. What is in its way there is said; it is kept all the same." + onRevision},
	"clear-spot":         {"areas", "", "It is where it stands otherwise." + onRevision},
	"try-spot":           {"areas", live, "Nothing is changed."},
	"arrange":            {"areas", live, "Four schools side by side, each with what is walked in a week before and after, and the bound below which no arrangement can be while things live where they do. It takes some seconds. Nothing is changed."},
	"accept-arrangement": {"areas", "", "What clashes in modes then is folded there or gets the nearest free spot." + onRevision},
	"room-in-mode":       {"areas", "", "Of the spots with as few things in the way, the one to which changing over is quickest. What is in the way is folded where that is enough, or gets the nearest free spot." + onRevision},
	"judge-floor":        {"areas", ofShop, "The estimates of docs/rules; what could be done about floor is said with the seconds it costs."},
	"set-jobs":           {"areas", "", "All of them at once. Of a shop that says none a usual one is followed." + onRevision},
	"swap-stations":      {"places", "", "Each has its back in the middle of where the other's was. Refused where one does not fit." + onRevision},
	"floor-layouts":      {"areas", ofShop, "As it stands first, then the modes. Bodies have heights; the ways are as wide as their narrowest spot."},
	"change-over":        {"areas", live, "The fewest moves there are, each without putting one thing into another; what stands in each other’s way is set aside for a while. What cannot be brought to its spot is said with the reason."},

	"list-areas":   {"areas", ofShop, "The first is the main one."},
	"get-area":     {"areas", ofShop, "Outline, walls with what is in them, ceiling and floor."},
	"add-area":     {"areas", "", "It has a usual size, all of it assumed, until it is measured." + onRevision},
	"remove-area":  {"areas", "", "Refused while anything is in it." + onRevision},
	"survey":       {"areas", ofShop, "What was measured and what is assumed, with the adjusted sizes, contradictions and what to measure next."},
	"enter":        {"areas", "", "Entries are a path and a text, as typed; one that cannot be so is refused at its index and nothing is entered." + onRevision},
	"figures":      {"areas", ofShop, "The longest board and the biggest sheet that come through the doors, turn and stand up."},
	"will-it-go":   {"areas", live, "A piece of three sides, as typed: does it come in, turn, stand up, and what is in its way."},
	"survey-sheet": {"areas", ofShop, "A4 to print, as pdf or svg: every wall with what is known and blanks for the rest."},
	"free":         {"areas", ofShop, "Maximal free rectangles of walls, zones under the ceiling, dead space, each with what limits it."},

	"list-items":              {"items", ofShop, "As the shop file has them; all that are asked for must hold."},
	"get-item":                {"items", ofShop, "As the shop file has it: sizes in mm, weight in kg."},
	"list-homes":              {"items", ofShop, "A thing may have several; see docs/format for what the numbers mean in each kind of place."},
	"add-items":               {"items", "", "Each line is read as a person writes it: name, count, size, weight, uses, station. All are put on the list, or none." + onRevision},
	"set-items":               {"items", "", "The text is read as it would be typed into a cell." + onRevision},
	"remove-items":            {"items", "", "Their homes go with them; undo brings both back." + onRevision},
	"resolve-alike":           {"items", "", "Count them as one, keep a spare, merge them, or leave them as two." + onRevision},
	"read-line":               {"items", ofShop, "What would be made of the line, word by word; nothing is changed."},
	"ticks":                   {"items", ofShop, "What is there already first, then what makers of such things have and the place can hold."},
	"tick":                    {"items", "", "More of a kind, or fewer where a number is below 0; what there is no spot for lies there." + onRevision},
	"shops":                   {"shop", live, "The one the program was started with, and those in the folder beside it."},
	"make-shop":               {"shop", "", "A new database file, empty, opened by the path that is answered."},
	"copy-example":            {"shop", "", "What is there is replaced, and can be had back by undo." + onRevision},
	"item-as-station":         {"places", "", "It leaves the list, or is one fewer there, and stands where it does best." + onRevision},
	"station-as-item":         {"items", "", "It leaves the floor; what is used there needs another station." + onRevision},
	"kinds":                   {"items", live, "Kinds of thing with their usual size, weight and way of holding, all of them assumed."},
	"advice":                  {"items", ofShop, "What to measure first because most depends on it, what looks alike, what belongs together, what gathers dust."},
	"print":                   {"shop", ofShop, "A PDF is cut up for the sheets of a paper, with marks to lay them on each other; SVG and PNG are one whole picture."},
	"enough":                  {"shop", ofShop, "What a first plan rests on and how far it is known; what it cannot do without is marked."},
	"next":                    {"shop", ofShop, "What is missing before anything can be worked out, then what costs most as things stand."},
	"leaving":                 {"items", ofShop, "Things that do what the new one does, or that are hardly used."},
	"try":                     {"items", live, "Allowed or not and why, and the weekly handling there and now. Nothing is moved."},
	"best":                    {"items", ofShop, "The free home that costs least in a week."},
	"give-home":               {"items", "", "The spot slides to the nearest free one when that is near; what breaks a rule is refused with the reason." + onRevision},
	"take-home":               {"items", "", "It counts as looked for from then on." + onRevision},
	"lock-home":               {"items", "", "Locked homes stay in every plan." + onRevision},
	"why":                     {"items", ofShop, "The seconds of fetching part by part, and what bars better places."},
	"admit":                   {"items", ofShop, "Where it would go if some others moved to free spots of their own."},
	"make-room":               {"items", "", "All moves in one revision." + onRevision},
	"few-moves":               {"plans", live, "What moves first, as the shop stands: up to three moves the best there are, then the one that saves most for each thing it moves."},
	"swaps":                   {"items", ofEvents, "Two things that exchange homes, or one that moves, each by itself keeping every rule."},
	"swap":                    {"items", "", "Refused when it would break a rule by now." + onRevision},
	"photo":                   {"items", live, "Large, or small for lists; a photo never changes."},
	"add-photo":               {"items", "", "The body is the picture. Where and when it was taken is removed from it." + onRevision},
	"remove-photo":            {"items", "", "Undo brings it back." + onRevision},
	"add-photo-of-storage":    {"places", "", "The id is that of a place, or of the container it is in. The body is the picture. Where and when it was taken is removed from it." + onRevision},
	"remove-photo-of-storage": {"places", "", "Undo brings it back." + onRevision},

	"list-places":     {"places", ofShop, "As the shop file has them."},
	"get-place":       {"places", ofShop, "As the shop file has it."},
	"list-containers": {"places", ofShop, "As the shop file has them: cabinets, carts, totes and whatever else holds places."},
	"get-container":   {"places", ofShop, "As the shop file has it."},
	"list-stations":   {"places", ofShop, "Where one stands and works."},
	"get-station":     {"places", ofShop, "As the shop file has it."},
	"new-station":     {"places", "", "Of a name it gets the usual size of such a one and stands where that costs the least walking, clear of doors, panels and whatever stands there. A line may also say its size, how it moves, what it draws and where it stands: table saw 800x750x860 wheels 9A wall B. Where it is said exactly it stands there even when something is in the way, which is then said." + onRevision},
	"change-station":  {"places", "", "Its back stays where it is when it gets deeper or shallower; what is typed is assumed no more." + onRevision},
	"station-needs":   {"places", ofShop, "Mains, extraction, compressed air, light, noise and weight, as such a station usually has them, with what supplies it in the room. Estimates; circuits and outlets are for an electrician."},
	"try-station":     {"places", live, "What would be in its way, and the weekly handling as it stands and with it there. Nothing is changed."},
	"bring-in":        {"places", live, "The fewest others are shifted; nothing is changed. In words when there is no spot."},
	"takes":           {"places", live, "A piece lies on the table, passes over what is lower and out through doors and windows that are opened. Each side has what stops it, the nearest first; the steps are the fewest that make room."},
	"move-station":    {"places", "", "On a spot of the floor, or where it stands best at a wall, by a window or a door, or in the middle. Modes that have spots of their own for it keep them." + onRevision},
	"remove-station":  {"places", "", "Refused while places are part of it, or things are used there and it is not said where they are used then." + onRevision},
	"read-note":       {"areas", live, "Each piece of the line with what it was taken for, and what is not clear with what would be right. Nothing is changed."},
	"note-place":      {"places", "", "A container with its places, or a place by itself, with the sizes that are said: shelving 1000x2000x450 5 shelves wall B 4.6m. It gets the next free address; what is inside counts from the top." + onRevision},
	"note-room":       {"areas", "", "The size of the room with what is in its walls, in any order: 5.6 x 4.1 x 2.4, door A 850x1980 at 400, studs 600 from 320. What was said counts as measured. It takes the place of the walls there are; stations that would be in the way are put elsewhere." + onRevision},
	"layout":          {"places", ofShop, "From the front, from above or from the end, with what can be said of load, room and sag."},
	"worth":           {"places", ofShop, "How full it is and which things gain most by living there."},
	"try-storage":     {"places", live, "Findings before and after, weekly handling; nothing is moved."},
	"move-storage":    {"places", "", "What is in it moves along; where a rule forbids it, it is refused and stays." + onRevision},
	"set-storage":     {"places", "", "The text is read as typed. What lives there stays, even where it no longer fits; the check says so." + onRevision},
	"remove-storage":  {"places", "", "Nothing that lives there is deleted: it has no home then." + onRevision},
	"size-storage":    {"places", live, "Sized round the things, with the rules that were used and what was left out."},
	"where-storage":   {"places", live, "Free spots with weekly handling, studs and cautions, and why the other walls do not take it."},
	"install-storage": {"places", "", "Storage, and the things it was sized for with their homes in it, in one revision." + onRevision},

	"list-plans":     {"plans", live, "Those that wait or run, and the plans that are kept over a restart, oldest first."},
	"plan-homes":     {"plans", "", "Starts a search and answers at once. For all modes of the floor by their hours, as it stands, or for one mode. Watch it by its stream, or ask how far it is."},
	"plan-storage":   {"plans", "", "Proposes storage in a way of working, with homes for everything, from what is there or on bare walls."},
	"what-if":        {"plans", "", "Answers a question: somebody taller, a wall more, a thing more. Such a plan is not accepted."},
	"get-plan":       {"plans", live, "State, weekly handling of the best so far, and the bound below which no plan can be."},
	"watch-plan":     {"plans", live, "Server-sent events, the last when it is done."},
	"stop-plan":      {"plans", "", "The best so far is the plan."},
	"discard-plan":   {"plans", "", "It is gone; its number is never given again."},
	"compare-plan":   {"plans", live, "What moves and what it saves, what finds no home and why, the shop with the plan."},
	"accept-plan":    {"plans", "", "All of it, or the part of some walls, places or things, in one revision." + onRevision},
	"plan-choices":   {"plans", live, "Ways of working, and the usual prices of the wishes in seconds a week."},
	"contradictions": {"plans", ofShop, "Locked homes that cannot be, overloads no plan can mend, families locked apart."},

	"list-events":    {"events", ofEvents, "Events that were taken back are left out. The next page begins before the id of the last event of this one."},
	"get-event":      {"events", ofEvents, "With what it was, whether it was taken back or not."},
	"add-event":      {"events", "", "Nothing of the shop changes and nothing grows stale. What was not so is taken back by an event with what taken-back that corrects its number."},
	"get-look":       {"events", live, "Place by place, clockwise from the main door, with what lives there and what was seen of it. It goes on where it was left."},
	"begin-look":     {"events", "", "One look at a time: one that was open is ended, what was seen on it stays in the log."},
	"see":            {"events", "", "Noted as events; seen again it is what was seen last that counts."},
	"end-look":       {"events", "", "What is missing with when and where it was last, what strayed, what is not on the list, counts that differ."},
	"place-page":     {"places", live, "Of a box with all that is in it."},
	"read-code":      {"places", live, "For phones whose browser gives no camera to the page. A code that is none of this shop's is said in words."},
	"list-labels":    {"places", live, "Of each place, each container that is carried, and things when asked for: address, name, contents, words of caution, rated load; how large letters must be to be read from where one stands."},
	"print-labels":   {"places", live, "On a common size or on measures of one's own, from any label of the first sheet; one label alone as a picture."},
	"place-order":    {"places", ofShop, "By use, name, size or kind. Those that stay are a longest rising part of the row, so fewer cannot move."},
	"set-order":      {"places", "", "Its label has what is in it in that order." + onRevision},
	"labels-printed": {"places", "", "From then on they are stale when what stands on them changes."},
	"guards":         {"events", ofEvents, "Missing ones first of all, then those whose day is past, those that are out, those whose day is near."},
	"list-out":       {"events", ofEvents, "One entry for each event by which pieces left and are out still: taken or lent, to whom, until when, where they are meanwhile."},
	"tap":            {"events", "", "What is in a box or kit counts as far as it is there. 409 in words when something is out already, or is not out. A key makes a press count once however often it is sent."},
	"habits":         {"events", live, "Nothing is said of a season or a year before the log is as old."},
	"needs":          {"items", ofShop, "The kits that were made first, then what is used most at each station, then what is promised to projects."},
	"gather":         {"items", live, "Area by area, each in the order of the shortest walk; up to 12 stops the shortest there is."},
	"closing":        {"events", live, "What was taken goes back, what was lent stays out; chargers, heaters and stoves off, rags out of the heap, the door last."},
	"list-kits":      {"items", ofShop, "Things that are taken together."},
	"get-kit":        {"items", ofShop, "One kit."},
	"put-kit":        {"items", "", "What belongs to it replaces what did." + onRevision},
	"drop-kit":       {"items", "", "Its things stay where they are." + onRevision},
	"export-events":  {"events", ofEvents, "The newest first, those that were taken back left out."},
	"list-uses":      {"events", ofEvents, "Uses in the last days, and the day of the last use of all time."},
	"learned":        {"events", ofEvents, "The rate is the mean of what was said, worth four weeks, and what was noted since."},
	"take-learned":   {"events", "", "Uses a week become what was learned; they are no longer assumed." + onRevision},

	"builds":           {"places", ofShop, "Hours are those of the shop's own pace, space is litres of storage, sheet m² and solid wood m in the parts."},
	"unit":             {"places", ofShop, "What is left out of the choices is what suits the shop's tools. Parts are blocks in the unit, x from its left, y from its front, z from its foot, mm."},
	"draw-unit":        {"places", ofShop, "Views and section with dimensions, parts apart with their list, each part with what is cut and drilled, steps, screws in the wall."},
	"template":         {"places", ofShop, "As PDF cut up for paper with marks to lay the sheets on each other; as SVG and DXF in one piece each."},
	"built":            {"places", "", "From the plan that is carried out; screws and rating with it." + onRevision},
	"lining":           {"places", ofShop, "Sheets, waste, screws, hours and the share of the free wall in which a screw then holds."},
	"judge-found":      {"places", live, "Nothing is changed. Things are put in the largest first, or the smallest where more of them go in so; where it would go as storage that stands."},
	"keep-found":       {"places", "", "What goes in leaves the homes it had." + onRevision},
	"apart":            {"places", ofShop, "By how it would be made: measure what you take apart."},
	"take-apart":       {"places", "", "Pieces come into stock as salvaged, on a rack where one has room; what lived there has no home then." + onRevision},
	"keep-outline":     {"items", "", "Its width and height are those of the outline from then on." + onRevision},
	"closely":          {"places", live, "Nothing is changed. What is locked stays, what lives there stays in it; no rule is broken that was not before."},
	"lay-closely":      {"places", "", "As was shown; the place is packed by outlines from then on." + onRevision},
	"supply":           {"shop", live, "Informs and estimates: circuits and outlets are an electrician's, gas and flues a licensed fitter's. Sources of all figures are in docs/rules."},
	"set-supply":       {"shop", "", "What is left out stays as it is." + onRevision},
	"set-lamp":         {"shop", "", "As on its box." + onRevision},
	"set-running":      {"shop", "", "All of them, as they are from now on." + onRevision},
	"set-room-supply":  {"shop", "", "What is left out stays as it is; of the walls those that are named change." + onRevision},
	"set-strips":       {"shop", "", "All of them, as they are from now on." + onRevision},
	"set-stored":       {"shop", "", "All of it, as it is from now on." + onRevision},
	"set-quiet":        {"shop", "", "Both times or neither." + onRevision},
	"sites":            {"shop", ofShop, "At most four spots that are clear and better than where it stands, the best first, and that one last."},
	"due":              {"upkeep", live, "By the day that is now where the shop is. Empty when nothing is due."},
	"due-calendar":     {"upkeep", live, "Whole days; what is late stands on today. Each line has the same id every time."},
	"feed":             {"upkeep", live, "Whoever knows the address reads it, also without the pass phrase; 404 for any other."},
	"feed-address":     {"upkeep", live, "Made when it is first asked for."},
	"change-feed":      {"upkeep", "", "Calendars that read the old address get 404 from then on."},
	"set-upkeep":       {"upkeep", "", "All of it, as it is from now on; an interval of nothing is refused." + onRevision},
	"upkeep-done":      {"upkeep", "", "Its next day counts from then." + onRevision},
	"put-off-upkeep":   {"upkeep", "", "Until a day to come, with a reason." + onRevision},
	"mark-dull":        {"upkeep", "", "It waits for a batch." + onRevision},
	"sharpened":        {"upkeep", "", "Noted of each with the day." + onRevision},
	"set-stock":        {"upkeep", "", "Low mark and what is wanted are learned from use when left out." + onRevision},
	"use-stock":        {"upkeep", "", "What was used is noted as uses, from which the rate is learned." + onRevision},
	"set-limbo":        {"upkeep", "", "The day since which it waits is noted." + onRevision},
	"set-records":      {"upkeep", "", "What is left out stays as it is; lists are as they are from now on." + onRevision},
	"projects":         {"upkeep", live, "Open ones first, by the day they were touched."},
	"set-project":      {"upkeep", "", "What is left out stays as it is; what was promised to it follows its name." + onRevision},
	"drop-project":     {"upkeep", "", "It stays on record as dropped." + onRevision},
	"snapshots":        {"review", live, "With the aims as they stand by the figures of today."},
	"keep-snapshot":    {"review", "", "Kept beside the shop: undo leaves it alone."},
	"forget-snapshot":  {"review", "", "It cannot be brought back."},
	"snapshot-photo":   {"review", "", "One of each wall; another takes its place."},
	"review":           {"review", live, "The earlier day first, whichever is named first."},
	"review-page":      {"review", live, "Things and places by name, nobody in person; it needs no other file."},
	"cautions-page":    {"review", live, "Each caution once, with what to do; local rules and licensed people come first."},
	"month":            {"review", ofShop, "The same seed gives the same months."},
	"new-room":         {"review", live, "Nothing is changed. What lives in what comes along stays in it."},
	"new-room-file":    {"review", live, "Nothing is changed. Open it as a shop of its own."},
	"outline":          {"items", "", "The body is a JPEG, PNG or WebP file: the thing lies on a white sheet on something dark, all four corners in the picture, photographed from about above. Nothing is changed."},
	"outline-template": {"items", "", "As PDF cut up for paper with marks to lay the sheets on each other. Nothing is changed."},
	"wood":             {"items", ofEvents, "Pieces are things of the list with a word about their wood; what lies where is by their homes, what has to be lifted off first by how racks are stacked."},
	"add-wood":         {"items", "", "As 8 oak 2600x180x30 C2, 6 bf walnut 4/4, 1/2 sheet birch ply 12mm. Each is put where there is room." + onRevision},
	"set-wood":         {"items", "", "What is left out stays as it is." + onRevision},
	"find-wood":        {"items", live, "Those that waste least first, what is promised last."},
	"delivery":         {"items", live, "Nothing is changed: it says before something is bought whether the racks take it."},
	"glue-up":          {"items", live, "Spacing by pressure that spreads at 45 degrees; forces are estimates where clamps are not rated."},
	"set-cut-lists":    {"items", "", "All of them, as they are from now on." + onRevision},
	"plan-cuts":        {"items", live, "Cuts go right through what is in the hand; the bound is that of the relaxed programme. The last thirty plans are kept until the server stops."},
	"draw-cuts":        {"items", live, "A page for each piece of stock, with the cuts in their order."},
	"take-cuts":        {"items", "", "Undo gives it back." + onRevision},

	"read-table":    {"tables", "", "The body is the file. What each column is taken for is said, with the reason."},
	"preview-table": {"tables", live, "New, changed, the same or faulty, for every row, with what is wrong."},
	"import-table":  {"tables", "", "Server-sent events: how far it is, then done with the revision, or refused." + onRevision},

	"meter":            {"devices", live, "Whether one is connected, and what it can be aimed at."},
	"label-printer":    {"devices", live, "Where there is no real one, the simulated one of the demo prints into a tray one can look at."},
	"print-one-by-one": {"devices", "", "As many as are chosen; nothing of the shop changes until it is said that they are on their places."},
	"label-in-tray":    {"devices", live, "Black or white, as it was burnt; the last sixty are there."},
	"press-meter":      {"devices", "", "One reading, in mm."},
	"scale":            {"devices", live, "Whether one is connected."},
	"weigh":            {"devices", "", "Reads the scale; nothing is stored until the weight is set."},

	"session":       {"devices", live, "Beyond this machine each device has a role: a maker does everything, the household finds, takes and puts back, a guest looks."},
	"devices":       {"devices", live, "For makers."},
	"pair-device":   {"devices", "", "Good for ten minutes, and once. It is refused where the shop is not shared."},
	"change-device": {"devices", "", "From the next thing it asks."},
	"show-out":      {"devices", "", "From the next thing it asks."},

	"health": {"program", live, "The newest revision, and that is all."},
	"about":  {"program", live, "For whoever sits at the machine: version, path of the database, backups."},
	"backup": {"program", "", "One a day is kept by itself; this makes it now."},
}

// described adds to an operation what is said of it and which refusals it knows.
func described(o huma.Operation) huma.Operation {
	x := descriptions[o.OperationID]
	o.Tags, o.Description = []string{x.tag}, x.text
	if o.Metadata == nil {
		o.Metadata = map[string]any{}
	}
	o.Metadata["of"] = x.of
	add := func(status int) {
		for _, has := range o.Errors {
			if has == status {
				return
			}
		}
		o.Errors = append(o.Errors, status)
	}
	add(http.StatusUnauthorized)
	add(http.StatusUnprocessableEntity)
	if strings.Contains(o.Path, "{") {
		add(http.StatusNotFound)
	}
	if o.Method != http.MethodGet {
		add(http.StatusForbidden)
		add(http.StatusRequestEntityTooLarge)
		add(http.StatusUnsupportedMediaType)
	}
	if strings.HasSuffix(x.text, onRevision) {
		for _, status := range []int{http.StatusConflict, http.StatusPreconditionFailed, http.StatusPreconditionRequired, http.StatusInsufficientStorage, http.StatusServiceUnavailable} {
			add(status)
		}
	}
	return o
}
