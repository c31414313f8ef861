// Package shop is the model everything else works on: the areas of a workshop
// with their walls, the stations, containers and places in them, the items,
// and the homes that say where each item lives. It reads and writes the shop
// file (docs/format), whose field names are the json tags here; the tags need,
// enum, over, min and max state what a field may hold and are enforced when a
// file is read and published in the JSON Schema.
//
// Lengths are in millimetres, weights in kilograms, angles in degrees
// (anticlockwise seen from above) and times in seconds wherever a file is read
// or written.
package shop

import (
	"hobrak/internal/core/event"
	"hobrak/internal/core/length"
	"hobrak/internal/core/weight"
)

// Format and Version identify the shop files this package reads and writes.
const (
	Format  = "hobrak-shop"
	Version = 2
)

// Shop is the whole of a shop file.
type Shop struct {
	Format     string      `json:"format" need:"yes" enum:"hobrak-shop" doc:"always hobrak-shop"`
	Version    int         `json:"version" need:"yes" doc:"version of the format, 2"`
	Settings   Settings    `json:"shop" need:"yes" doc:"what holds for the whole shop"`
	Areas      []Area      `json:"areas" need:"yes" doc:"rooms and other spots that store things; the first is the main one"`
	Circuits   []Circuit   `json:"circuits,omitempty" doc:"electrical circuits that outlets belong to"`
	Stations   []Station   `json:"stations,omitempty" doc:"where one stands and works"`
	Containers []Container `json:"containers,omitempty" doc:"cabinets, carts and whatever else holds places"`
	Places     []Place     `json:"places,omitempty" doc:"whatever holds items"`
	Items      []Item      `json:"items,omitempty" doc:"things that need a home, one entry for several alike"`
	Homes      []Home      `json:"homes,omitempty" doc:"where items live"`
	Modes      []Mode      `json:"modes,omitempty" doc:"arrangements of the floor; the positions elsewhere in the file hold when a mode does not say otherwise"`
	Kits       []Kit       `json:"kits,omitempty" doc:"things that are taken together, by name"`
	Targets    []Target    `json:"targets,omitempty" doc:"plans that are kept: how things are to be, while the homes say where they are"`
	Events     event.Log   `json:"events,omitempty" doc:"what happened, oldest first; in a file only, the program keeps them beside the shop"`
	Whole      bool        `json:"-" doc:"it came as a whole: days in it stay as they are"`
	Fit        *FitReport  `json:"fit,omitempty" doc:"written by hobrak fit: what the homes in this file cost"`
}

// Settings hold for the whole shop.
type Settings struct {
	Name            string             `json:"name" need:"yes" doc:"what the shop is called"`
	Units           length.System      `json:"units" need:"yes" doc:"units shown and assumed for bare numbers that people type; the file itself is always metric"`
	Decimal         string             `json:"decimal,omitempty" enum:"point,comma" doc:"mark before decimals in what is shown; a point when left out. Both are read"`
	SessionsPerWeek float64            `json:"sessions_per_week,omitempty" min:"0" max:"50" doc:"how often the shop is used in a week"`
	GrowthReserve   float64            `json:"growth_reserve,omitempty" min:"0" max:"0.9" doc:"share of each place to keep free"`
	People          []Person           `json:"people,omitempty" doc:"who uses the shop; for a thing that is nobody's in particular, the adult counts who reaches it worst"`
	Ways            *Working           `json:"ways,omitempty" doc:"ways of working, each from 0 to 1"`
	Together        []string           `json:"together,omitempty" doc:"families that must stay together in one case or place"`
	Prices          *Prices            `json:"prices,omitempty" doc:"what material costs; nothing is costed when left out"`
	Fixing          string             `json:"fixing,omitempty" enum:"anything,few-holes,none" doc:"what may be fixed to the building"`
	Estimates       map[string]float64 `json:"estimates,omitempty" doc:"own values for the estimates of docs/rules, by name"`
	Clear           *Clearances        `json:"clearances,omitempty" doc:"room to keep free round what is in the building; the usual values when left out"`
	Makes           []string           `json:"makes,omitempty" enum:"hand-tools,machines,turning,carving,instruments,boats,boxes,repair" doc:"what is made there: which things a tick list offers first"`
	Shares          []string           `json:"shares,omitempty" enum:"car,trailer,boat,motorbike,bicycle,mower,washing-machine,freezer" doc:"what else lives in the room; each is asked for until it stands on the floor"`
	Mode            string             `json:"mode,omitempty" doc:"mode the floor is in now; as it stands when left out. Find answers for it"`
	Target          string             `json:"target,omitempty" doc:"id of the target that is being carried out; none when left out"`
	Pace            float64            `json:"pace,omitempty" min:"0.2" max:"5" doc:"how much longer than usual building and moving takes here; as usual when left out. Learned from steps that are ticked"`
	ChangeMinutes   float64            `json:"change_minutes,omitempty" min:"0" max:"240" doc:"how long changing the floor from one mode to another may take; nothing is said of it when left out"`
	Jobs            []Job              `json:"jobs,omitempty" doc:"what is made again and again, by the stops its material makes; a usual one is taken when left out"`
	Odds            string             `json:"odds,omitempty" doc:"address of the one place for odds and ends"`
	OddsMost        int                `json:"odds_most,omitempty" min:"0" max:"1000" doc:"how many lines may lie there; 25 when left out"`
	Running         []Together         `json:"running,omitempty" doc:"machines that run at the same time"`
	Strips          []Strip            `json:"strips,omitempty" doc:"power strips and reels that machines are plugged into"`
	Stored          *Stored            `json:"stored,omitempty" doc:"what is worked from batteries, where there is little or no mains; none when left out"`
	QuietFrom       string             `json:"quiet_from,omitempty" doc:"time of day from which it must be quiet, as 20:00"`
	QuietTo         string             `json:"quiet_to,omitempty" doc:"time of day until which, as 08:00"`
	Upkeep          []Upkeep           `json:"upkeep,omitempty" doc:"work that comes again"`
	DullBatch       int                `json:"dull_batch,omitempty" min:"1" max:"100" doc:"so many dull edges are worth a session of sharpening; 4 when left out"`
	FrostMoves      string             `json:"frost_moves,omitempty" doc:"month and day on which what must not freeze comes in, as 10-15; that when left out"`
	LimboDays       int                `json:"limbo_days,omitempty" min:"1" max:"3650" doc:"after so many days what waits for repair, sale or a decision is looked at again; 90 when left out"`
	Projects        []Project          `json:"projects,omitempty" doc:"what is being made"`
	ProjectsMost    int                `json:"projects_most,omitempty" min:"1" max:"100" doc:"how many projects may be open at a time; no limit when left out"`
	StalledDays     int                `json:"stalled_days,omitempty" min:"1" max:"3650" doc:"after so many days untouched a project has stalled; 30 when left out"`
	Aims            []Aim              `json:"aims,omitempty" doc:"what the year is to bring"`
	Trials          []Trial            `json:"trials,omitempty" doc:"what one tries to do without"`
	Regrets         []Regret           `json:"regrets,omitempty" doc:"what one would not do again"`
	CutLists        []CutList          `json:"cut_lists,omitempty" doc:"parts that are wanted, by name"`
	WoodCap         float64            `json:"wood_cap,omitempty" min:"0" max:"1000" doc:"how much wood is wanted in stock at most, m³; no limit when left out"`
	Useful          length.Length      `json:"useful,omitempty" min:"0" max:"5000" doc:"length from which an offcut is kept; 300 when left out"`
	WoodMonths      float64            `json:"wood_months,omitempty" min:"0" max:"600" doc:"after how many months untouched wood is looked at again; 12 when left out"`
	OneOut          bool               `json:"one_out,omitempty" doc:"ask what leaves whenever something comes in"`
	Notes           string             `json:"notes,omitempty" doc:"free text"`
}

// usualOdds is how many lines the place for odds and ends takes when nothing is said (an estimate).
const usualOdds = 25

// OddsCap is how many lines may lie in the place for odds and ends.
func (s *Settings) OddsCap() int {
	if s.OddsMost > 0 {
		return s.OddsMost
	}
	return usualOdds
}

// Usual rules of when wood is let go (estimates; people differ widely, so both are asked).
const (
	usefulLength = 300 * length.Millimetre
	woodMonths   = 12.0
)

// UsefulLength is the length from which an offcut is kept.
func (s *Settings) UsefulLength() length.Length {
	if s.Useful > 0 {
		return s.Useful
	}
	return usefulLength
}

// MonthsOfWood is after how many months untouched wood is looked at again.
func (s *Settings) MonthsOfWood() float64 {
	if s.WoodMonths > 0 {
		return s.WoodMonths
	}
	return woodMonths
}

// OwnPace is how much longer than usual building and moving takes here; 1 when nothing is said.
func (s *Settings) OwnPace() float64 {
	if s.Pace > 0 {
		return s.Pace
	}
	return 1
}

// Job is what is made again and again.
type Job struct {
	Name     string   `json:"name" need:"yes" doc:"what is made"`
	PerMonth float64  `json:"per_month,omitempty" min:"0" max:"1000" doc:"how often"`
	Path     []string `json:"path,omitempty" doc:"ids of stations, places and containers in the order its material comes to them; door for the main door"`
}

// PerWeek is how often it is made in a week.
func (j *Job) PerWeek() float64 { return j.PerMonth * 12 / 52 }

// Person is somebody who fetches things.
type Person struct {
	ID         string                   `json:"id" need:"yes" doc:"unique name"`
	Stature    length.Length            `json:"stature" need:"yes" min:"500" max:"2500" doc:"body height without shoes"`
	LeftHanded bool                     `json:"left_handed,omitempty" doc:"prefers the left hand"`
	Child      bool                     `json:"child,omitempty" doc:"things flagged child are kept from this person"`
	Lean       *length.Length           `json:"lean,omitempty" min:"0" max:"400" doc:"how far this person leans over an obstacle; 250 when left out"`
	Seated     bool                     `json:"seated,omitempty" doc:"works sitting down, on a stool or in a wheelchair: reaches from there, and climbs nothing"`
	NoKneeling bool                     `json:"no_kneeling,omitempty" doc:"does not kneel: what is under knee height is got at stooping, which costs the estimate stoop"`
	NoLadder   bool                     `json:"no_ladder,omitempty" doc:"climbs no ladder: what needs one is out of reach"`
	Lifts      weight.Weight            `json:"lifts,omitempty" min:"0" max:"100" doc:"lifts no more than this; the lifting equation alone when left out"`
	DimSight   bool                     `json:"dim_sight,omitempty" doc:"reads labels badly: searching takes the estimate dim_sight times as long"`
	Measured   map[string]length.Length `json:"measured,omitempty" doc:"heights measured instead of derived: eye, shoulder, elbow, hip, fingertip, knee, arm"`
}

// Working of working; each share runs from 0 to 1.
type Working struct {
	Open      float64 `json:"open" min:"0" max:"1" doc:"1 everything in sight, 0 everything behind doors"`
	ByMachine float64 `json:"by_machine" min:"0" max:"1" doc:"1 things live with their machine, 0 by frequency at the bench"`
}

// Prices of material, in a currency of one's own.
type Prices struct {
	Currency string  `json:"currency,omitempty" doc:"its sign or short name"`
	Sheet    float64 `json:"sheet,omitempty" min:"0" max:"100000" doc:"a square metre of sheet"`
	Rail     float64 `json:"rail,omitempty" min:"0" max:"100000" doc:"a metre of rail"`
}

// Area is a room or another spot that stores things.
type Area struct {
	ID          string   `json:"id" need:"yes" doc:"unique name"`
	Name        string   `json:"name,omitempty" doc:"shown to people"`
	Kind        string   `json:"kind,omitempty" enum:"room,shed,loft,outdoors" doc:"what sort of area"`
	WalkSeconds float64  `json:"walk_seconds,omitempty" min:"0" max:"3600" doc:"walking time from the main area, one way"`
	Climate     []string `json:"climate,omitempty" enum:"frost,damp,sun" doc:"what it does to things"`
	Pale        bool     `json:"pale,omitempty" doc:"walls and ceiling are painted pale: they throw light back"`
	Insulated   bool     `json:"insulated,omitempty" doc:"walls and ceiling are insulated: it is warm sooner"`
	Exhaust     string   `json:"exhaust,omitempty" doc:"door, window or fan by which air leaves; the nearest opening to what makes most dust when left out"`
	Household   *Quota   `json:"household,omitempty" doc:"how much of it household things may take; no limit when left out"`
	Corners     []Point  `json:"corners" need:"yes" doc:"outline, clockwise seen from above, x to the right and y up; wall A runs from corner 0 to corner 1"`
	Walls       []Wall   `json:"walls" need:"yes" doc:"one for each side, in the same order"`
	Ceiling     *Ceiling `json:"ceiling,omitempty" doc:"joists and what hangs there"`
	Floor       *Floor   `json:"floor,omitempty" doc:"fall, posts and steps"`
	Survey      *Survey  `json:"survey,omitempty" doc:"what was measured; the corners follow from it"`
}

// Quota is how much room something may take.
type Quota struct {
	Wall  float64 `json:"wall,omitempty" min:"0" max:"1000" doc:"square metres of wall; no limit when left out"`
	Floor float64 `json:"floor,omitempty" min:"0" max:"1000" doc:"square metres of floor; no limit when left out"`
}

// Point is a pair of lengths: x and y on the floor, or x along a wall and height.
type Point [2]length.Length

// Wall is one side of an area. Its x grows to the right as seen from inside.
type Wall struct {
	ID       string    `json:"id" need:"yes" doc:"letter of the wall, clockwise from the main door"`
	Profile  []Point   `json:"profile" need:"yes" doc:"top edge as pairs of distance along the wall and height"`
	Surface  string    `json:"surface,omitempty" enum:"drywall,plaster,plywood,boards,bare-studs,timber,brick,block,concrete,sheet-metal" doc:"what the wall is made of on the inside"`
	Studs    *Studs    `json:"studs,omitempty" doc:"where the studs are"`
	Claimed  bool      `json:"claimed" need:"yes" doc:"whether the shop may use the wall; false leaves it alone"`
	Beyond   string    `json:"beyond,omitempty" enum:"neighbour,bedroom" doc:"who hears what is done on this side of it"`
	Damp     bool      `json:"damp,omitempty" doc:"what hangs open on it rusts"`
	Assumed  []string  `json:"assumed,omitempty" enum:"top,surface" doc:"what is assumed of the wall, not looked at"`
	Features []Feature `json:"features,omitempty" doc:"doors, windows and whatever else is in or on the wall"`
}

// Studs of a wall, at first, first+spacing and so on (centres), or each where
// it was found.
type Studs struct {
	Spacing length.Length   `json:"spacing,omitempty" min:"0" max:"3000" doc:"from centre to centre; needed unless they are listed"`
	First   length.Length   `json:"first,omitempty" min:"0" max:"3000" doc:"centre of the first stud from the wall's left end"`
	Width   length.Length   `json:"width" need:"yes" over:"0" max:"400" doc:"width of a stud"`
	List    []length.Length `json:"list,omitempty" min:"0" max:"50000" doc:"centres of the studs one by one from the left, instead of first and spacing"`
}

// Feature is a door, window or the like in a wall.
type Feature struct {
	ID      string        `json:"id" need:"yes" doc:"unique within the area"`
	Name    string        `json:"name,omitempty" doc:"shown to people"`
	Kind    FeatureKind   `json:"kind" need:"yes" doc:"what it is"`
	X       length.Length `json:"x" min:"0" doc:"left edge from the wall's left end"`
	Z       length.Length `json:"z" min:"0" doc:"lower edge above the floor"`
	W       length.Length `json:"w" need:"yes" over:"0" max:"50000" doc:"width"`
	H       length.Length `json:"h" need:"yes" over:"0" max:"15000" doc:"height"`
	D       length.Length `json:"d,omitempty" min:"0" max:"5000" doc:"how far it stands out from the wall; of a niche how deep it goes in"`
	Hinge   string        `json:"hinge,omitempty" enum:"left,right" doc:"side of the hinges seen from inside"`
	Swing   string        `json:"swing,omitempty" enum:"in,out" doc:"way the door opens"`
	Shape   string        `json:"shape,omitempty" enum:"square,arched" doc:"arched: the top is a segment of a circle"`
	Circuit string        `json:"circuit,omitempty" doc:"id of the circuit of an outlet"`
	Assumed []string      `json:"assumed,omitempty" enum:"x,z,w,h,d" doc:"which of its values are assumed, not measured"`
}

// Ceiling of an area.
type Ceiling struct {
	Joists   *Joists          `json:"joists,omitempty" doc:"where the joists run"`
	Features []CeilingFeature `json:"features,omitempty" doc:"lights, tracks, beams under the ceiling"`
}

// Joists of a ceiling.
type Joists struct {
	Along   string        `json:"along" need:"yes" enum:"x,y" doc:"axis they run along"`
	Spacing length.Length `json:"spacing" need:"yes" over:"0" max:"3000" doc:"from centre to centre"`
	First   length.Length `json:"first" min:"0" max:"3000" doc:"centre of the first one"`
}

// CeilingFeature hangs from the ceiling.
type CeilingFeature struct {
	ID    string        `json:"id" need:"yes" doc:"unique within the area"`
	Kind  string        `json:"kind" need:"yes" enum:"light,track,opener,beam,duct,fan,hoist" doc:"what it is"`
	X     length.Length `json:"x" doc:"left edge"`
	Y     length.Length `json:"y" doc:"lower edge seen from above"`
	W     length.Length `json:"w" need:"yes" over:"0" max:"50000" doc:"size along x"`
	D     length.Length `json:"d" need:"yes" over:"0" max:"50000" doc:"size along y"`
	Drop  length.Length `json:"drop" min:"0" max:"5000" doc:"how far it hangs down"`
	Lumen float64       `json:"lumen,omitempty" min:"0" max:"200000" doc:"light of a lamp; usual when left out"`
}

// Floor of an area.
type Floor struct {
	Fall     *Fall          `json:"fall,omitempty" doc:"slope of the floor"`
	Features []FloorFeature `json:"features,omitempty" doc:"posts and steps"`
}

// Fall of a floor.
type Fall struct {
	MMPerM float64 `json:"mm_per_m" min:"0" max:"200" doc:"millimetres a metre"`
	Toward string  `json:"toward" need:"yes" doc:"wall towards which it falls"`
}

// FloorFeature stands on the floor for good.
type FloorFeature struct {
	ID   string        `json:"id" need:"yes" doc:"unique within the area"`
	Kind string        `json:"kind" need:"yes" enum:"post,step,drain,pit" doc:"what it is"`
	X    length.Length `json:"x" doc:"left edge"`
	Y    length.Length `json:"y" doc:"lower edge seen from above"`
	W    length.Length `json:"w" need:"yes" over:"0" max:"50000" doc:"size along x"`
	D    length.Length `json:"d" need:"yes" over:"0" max:"50000" doc:"size along y"`
}

// Circuit of the electrical installation.
type Circuit struct {
	ID    string  `json:"id" need:"yes" doc:"unique name"`
	Volts float64 `json:"volts,omitempty" over:"0" max:"1000" doc:"voltage; not known when left out"`
	Amps  float64 `json:"amps,omitempty" over:"0" max:"400" doc:"rating of the breaker; not known when left out"`
	Guard string  `json:"guard,omitempty" enum:"yes,no" doc:"whether it has residual-current protection; not known when left out"`
}

// Station is a spot where work is done. Its footprint at rot 0 runs from x, y
// by w to the right and d up with its front at the lower edge; rot turns it
// anticlockwise about the middle of the footprint.
type Station struct {
	ID       string        `json:"id" need:"yes" doc:"unique name"`
	Name     string        `json:"name" need:"yes" doc:"shown to people"`
	Kind     StationKind   `json:"kind" need:"yes" doc:"bench, bandsaw, drill-press and so on"`
	Area     string        `json:"area,omitempty" doc:"area it stands in; the main one when left out"`
	X        length.Length `json:"x" doc:"left edge of the footprint"`
	Y        length.Length `json:"y" doc:"lower edge of the footprint"`
	Rot      float64       `json:"rot,omitempty" min:"-360" max:"360" doc:"degrees anticlockwise"`
	W        length.Length `json:"w" need:"yes" over:"0" max:"20000" doc:"width of the front"`
	D        length.Length `json:"d" need:"yes" over:"0" max:"20000" doc:"depth"`
	H        length.Length `json:"h" need:"yes" over:"0" max:"6000" doc:"height of its table or top"`
	Tall     length.Length `json:"tall,omitempty" min:"0" max:"6000" doc:"overall height where it is higher than the table"`
	Stand    Point         `json:"stand" need:"yes" doc:"where one stands to work there"`
	Mobility Mobility      `json:"mobility,omitempty" doc:"how it can be moved; fixed when left out"`
	Feed     *Feed         `json:"feed,omitempty" doc:"how long pieces pass through it"`
	Amps     float64       `json:"amps,omitempty" min:"0" max:"400" doc:"current on its nameplate"`
	Cord     length.Length `json:"cord,omitempty" min:"0" max:"50000" doc:"length of its own cord; a usual one when left out"`
	Lead     length.Length `json:"lead,omitempty" min:"0" max:"50000" doc:"length of the lead that is laid to it beside its cord"`
	Outlet   string        `json:"outlet,omitempty" doc:"outlet it is plugged into; the nearest when left out, or when it is gone"`
	Flow     float64       `json:"flow,omitempty" min:"0" max:"20000" doc:"m³/h by its plate: what a machine wants extracted, what an extractor, vacuum or air cleaner moves"`
	Hose     length.Length `json:"hose,omitempty" min:"0" max:"50000" doc:"of an extractor or vacuum: length of its hose; a usual one when left out"`
	Arm      length.Length `json:"arm,omitempty" min:"0" max:"10000" doc:"of an extractor, vacuum or compressor: how far an arm or boom carries its hose over the floor; none when left out"`
	DB       float64       `json:"db,omitempty" min:"0" max:"140" doc:"noise where one stands at it, dB(A), as stated; usual for its kind when left out"`
	Boxed    bool          `json:"boxed,omitempty" doc:"it stands in a vented box that keeps noise in"`
	Air      string        `json:"air,omitempty" enum:"dusty,clean,fumes" doc:"what is done there to the air, or wants of it; usual for its kind when left out"`
	Wants    []string      `json:"wants,omitempty" enum:"air,water,network" doc:"what must get there beside power and extraction: compressed air, water, the network; usual for its kind when left out"`
	Controls []Control     `json:"controls,omitempty" doc:"switches, stops, cranks and remotes one reaches for while working there"`
	Sees     []string      `json:"sees,omitempty" doc:"stations that are to be in sight of whoever stands here"`
	Mat      Point         `json:"mat,omitzero" min:"0" max:"5000" doc:"width and depth of the mat one stands on; none when left out"`
	Placed   string        `json:"placed,omitempty" doc:"day since which it stands where it does, as 2027-05-31; not known when left out"`
	KG       weight.Weight `json:"kg,omitempty" min:"0" max:"10000" doc:"its weight; not known when left out"`
	Casters  Casters       `json:"casters,omitempty" doc:"what it rolls on; not known when left out"`
	Rated    weight.Weight `json:"rated,omitempty" min:"0" max:"10000" doc:"what the hoist, bracket or hooks that it is hung on are rated for, as their maker says; not known when left out"`
	Wished   string        `json:"wished,omitempty" doc:"it is only wished for and holds its place until this day, as 2027-05-31"`
	When     string        `json:"when,omitempty" enum:"circuit,next-room" doc:"of one that is wished for: what it waits for, a circuit that carries it or the next room; for nothing when left out"`
	Assumed  []string      `json:"assumed,omitempty" enum:"w,d,h,tall,kg,amps" doc:"which of its values are assumed, not measured"`
}

// Control is what one reaches for while one works at a station.
type Control struct {
	Kind string        `json:"kind" need:"yes" enum:"stop,switch,crank,remote" doc:"what it is; a remote lies where it is said to"`
	X    length.Length `json:"x" min:"-5000" max:"20000" doc:"from the left of the station's front"`
	Y    length.Length `json:"y" min:"-5000" max:"20000" doc:"from its front towards its back"`
	Z    length.Length `json:"z" min:"0" max:"5000" doc:"above the floor"`
}

// Feed says which way and how far material passes through a machine.
type Feed struct {
	Along string        `json:"along" need:"yes" enum:"x,y" doc:"axis of its own footprint the piece moves along"`
	In    length.Length `json:"in" min:"0" max:"20000" doc:"room before the machine for the longest piece"`
	Out   length.Length `json:"out" min:"0" max:"20000" doc:"room behind it"`
	Wide  length.Length `json:"wide,omitempty" min:"0" max:"20000" doc:"widest piece the machine itself takes, by its plate; not known when left out"`
	Thick length.Length `json:"thick,omitempty" min:"0" max:"6000" doc:"thickest piece the machine itself takes, by its plate; not known when left out"`
}

// At says where a place or container is. Exactly one of wall, floor, in,
// station, ceiling or away is given.
type At struct {
	Area    string        `json:"area,omitempty" doc:"area; the main one when left out"`
	Wall    string        `json:"wall,omitempty" doc:"wall it hangs on, at x and z"`
	Floor   *Point        `json:"floor,omitempty" doc:"left and lower edge of its footprint on the floor"`
	In      string        `json:"in,omitempty" doc:"container it is in, at x from the left and z above its underside; of a container also a deck, shelf, floor or wall field it is on, at x from the left and y from the front, or z up the field"`
	Station string        `json:"station,omitempty" doc:"station it is part of, at x from the left and z above the floor"`
	Ceiling *Point        `json:"ceiling,omitempty" doc:"left and lower edge of its footprint under the ceiling, its underside at z"`
	Away    bool          `json:"away,omitempty" doc:"not in the shop at the moment"`
	X       length.Length `json:"x,omitempty" min:"0" doc:"from the left"`
	Y       length.Length `json:"y,omitempty" min:"0" doc:"from the front, of a container on a deck, shelf or floor place"`
	Z       length.Length `json:"z,omitempty" min:"0" doc:"height of the underside"`
	Face    string        `json:"face,omitempty" enum:"front,back" doc:"side of the container a place is got at from; the front when left out"`
	Rot     float64       `json:"rot,omitempty" min:"-360" max:"360" doc:"degrees anticlockwise, on the floor and under the ceiling"`
}

// Container holds places: a cabinet, chest, cart, shelving unit, door back or tote.
type Container struct {
	ID        string        `json:"id" need:"yes" doc:"unique name, also its address"`
	Name      string        `json:"name,omitempty" doc:"shown to people"`
	Kind      ContainerKind `json:"kind" need:"yes" doc:"what it is"`
	Area      string        `json:"area,omitempty" doc:"area it is in; the main one when left out"`
	At        At            `json:"at" need:"yes" doc:"where it is"`
	W         length.Length `json:"w" need:"yes" over:"0" max:"20000" doc:"width of the front"`
	H         length.Length `json:"h" need:"yes" over:"0" max:"6000" doc:"height"`
	D         length.Length `json:"d" need:"yes" over:"0" max:"20000" doc:"depth"`
	KG        weight.Weight `json:"kg,omitempty" min:"0" max:"2000" doc:"own weight"`
	Capacity  weight.Weight `json:"capacity,omitempty" min:"0" max:"5000" doc:"what it may carry in all, as rated"`
	Access    Access        `json:"access,omitempty" doc:"what must be done to get into it"`
	DustTight bool          `json:"dust_tight,omitempty" doc:"keeps dust out"`
	Lockable  bool          `json:"lockable,omitempty" doc:"can be locked"`
	Portable  bool          `json:"portable,omitempty" doc:"one carries it to the work with what is in it"`
	Photos    []string      `json:"photos,omitempty" doc:"names of its photos in the folder photos of a zip, best first"`
	Fixing    *Fixing       `json:"fixing,omitempty" doc:"how it is screwed to the wall"`
}

// Fixing says which screws hold a place or container to studs or solid timber.
// What is left out is not known, and then its load is not worked out.
type Fixing struct {
	Screws int           `json:"screws,omitempty" min:"0" max:"500" doc:"screws that hit studs or solid timber; no others count"`
	D      length.Length `json:"d,omitempty" min:"0" max:"12" doc:"outer diameter of their thread"`
	Thread length.Length `json:"thread,omitempty" min:"0" max:"300" doc:"length of thread in the wood"`
	Side   length.Length `json:"side,omitempty" min:"0" max:"200" doc:"thickness of what they fix"`
	Lever  length.Length `json:"lever,omitempty" min:"0" max:"6000" doc:"height of the screws over the lower edge it bears on"`
}

// Board is what a shelf or deck is made of.
type Board struct {
	Wood  string        `json:"wood" need:"yes" enum:"stud,red-oak,white-oak,hard-maple,soft-maple,cherry,walnut,ash,beech,yellow-birch,yellow-poplar,white-pine,douglas-fir,sitka-spruce,larch,redcedar,loblolly-pine,plywood,birch-plywood,mdf,particle-board,osb" doc:"material"`
	T     length.Length `json:"t" need:"yes" over:"0" max:"100" doc:"thickness"`
	Strip length.Length `json:"strip,omitempty" min:"0" max:"200" doc:"height of a strip of 18 along its front edge; none when left out"`
}

// Place holds items.
type Place struct {
	ID       string          `json:"id" need:"yes" doc:"unique name, also its address"`
	Name     string          `json:"name,omitempty" doc:"shown to people"`
	Kind     PlaceKind       `json:"kind" need:"yes" doc:"how it holds things"`
	Style    string          `json:"style,omitempty" enum:"cleat,peg,board,screw,studs,magnet,dowel" doc:"how a wall field or rail holds things"`
	At       At              `json:"at" need:"yes" doc:"where it is"`
	W        length.Length   `json:"w" need:"yes" over:"0" max:"20000" doc:"width inside"`
	H        length.Length   `json:"h" need:"yes" over:"0" max:"6000" doc:"height inside"`
	D        length.Length   `json:"d" need:"yes" over:"0" max:"20000" doc:"depth inside"`
	Capacity weight.Weight   `json:"capacity,omitempty" min:"0" max:"5000" doc:"what it may carry, as rated; not checked when left out"`
	Access   Access          `json:"access,omitempty" doc:"what must be done to get at it; open when left out"`
	Rows     []length.Length `json:"rows,omitempty" min:"0" max:"6000" doc:"heights of the rails of a cleat field above its lower edge; things hang with their top at one of them"`
	Pitch    length.Length   `json:"pitch,omitempty" min:"0" max:"1000" doc:"spacing of a rail's positions; 25 when left out"`
	Slots    []SlotRun       `json:"slots,omitempty" doc:"the slots from the left, in runs of the same size"`
	Levels   []Level         `json:"levels,omitempty" doc:"the arms of a rack, lowest first"`
	Arms     int             `json:"arms,omitempty" min:"2" max:"50" doc:"arms on each level, the outer ones at its ends; assumed to be one every 800 when left out"`
	Board    *Board          `json:"board,omitempty" doc:"what a shelf or deck is made of; assumed to be 18 plywood when left out"`
	Fixing   *Fixing         `json:"fixing,omitempty" doc:"how it is screwed to the wall"`
	Fill     float64         `json:"fill,omitempty" min:"0" max:"1" doc:"share of a bin's volume that can be used; 0.6 when left out"`
	Order    Ordering        `json:"order,omitempty" doc:"what the things in it are in order of, as one sees them and as they stand on its label; by use when left out"`
	Dull     string          `json:"dull,omitempty" enum:"left,right" doc:"of a rack of blades or knives: the side on which dull ones hang, the sharp ones on the other; anywhere when left out"`
	Dense    bool            `json:"dense,omitempty" doc:"things whose outline is known may reach into each other's boxes: what counts between them is the room between the outlines"`
	Labelled bool            `json:"labelled,omitempty" doc:"a label outside says what is in it"`
	When     []string        `json:"when,omitempty" doc:"modes in which it can be reached; all when left out"`
	Photos   []string        `json:"photos,omitempty" doc:"names of its photos in the folder photos of a zip, best first"`
	Notes    string          `json:"notes,omitempty" doc:"free text"`
}

// SlotRun is a run of n slots of the same size.
type SlotRun struct {
	N int           `json:"n" need:"yes" min:"1" max:"500" doc:"how many"`
	W length.Length `json:"w" need:"yes" over:"0" max:"5000" doc:"width of one, finger room included"`
	H length.Length `json:"h" need:"yes" over:"0" max:"6000" doc:"height free below or in it"`
	D length.Length `json:"d" need:"yes" over:"0" max:"5000" doc:"depth"`
}

// Level is one level of arms.
type Level struct {
	Z length.Length `json:"z" min:"0" max:"6000" doc:"height of the arms above the place's lower edge"`
	H length.Length `json:"h" need:"yes" over:"0" max:"6000" doc:"clear height above the arms"`
}

// Item is a thing that needs a home, or several alike. Its size is that of one
// of them as it is stored: w across, h up and d out from the wall; lying down it
// covers w by d and is h high. A board has its length in w, its width in d and
// its thickness in h.
type Item struct {
	ID          string         `json:"id" need:"yes" doc:"unique name"`
	Name        string         `json:"name" need:"yes" doc:"shown to people"`
	Kind        string         `json:"kind,omitempty" doc:"plane, saw, f-clamp and so on; decides the silhouette"`
	W           length.Length  `json:"w" need:"yes" over:"0" max:"20000" doc:"width"`
	H           length.Length  `json:"h" need:"yes" over:"0" max:"20000" doc:"height"`
	D           length.Length  `json:"d" need:"yes" over:"0" max:"20000" doc:"depth"`
	KG          weight.Weight  `json:"kg,omitempty" min:"0" max:"2000" doc:"weight of one"`
	Flat        *Size          `json:"flat,omitempty" doc:"size lying flat, where it hangs or stands otherwise: a plane 65 wide and 360 high on the wall lies 360 by 65 in a drawer; when left out, what hangs or has a slot lies on its widest side"`
	Count       int            `json:"count,omitempty" min:"0" max:"10000" doc:"how many alike; 1 when left out"`
	Assumed     []string       `json:"assumed,omitempty" enum:"w,h,d,kg,uses_per_week" doc:"which values are assumed, not measured"`
	Hold        []Hold         `json:"hold,omitempty" doc:"ways it can be held; what its kind suggests when left out"`
	UsesPerWeek float64        `json:"uses_per_week,omitempty" min:"0" max:"1000" doc:"how often it is fetched in a week"`
	UsedAt      []string       `json:"used_at,omitempty" doc:"stations it is used at; the first station of the shop when left out"`
	Since       string         `json:"since,omitempty" doc:"day from which uses count: when uses_per_week was last set from them"`
	Family      string         `json:"family,omitempty" doc:"things that want to live together"`
	Flags       []Flag         `json:"flags,omitempty" doc:"special care it needs"`
	Clearance   *length.Length `json:"clearance,omitempty" min:"0" max:"1000" doc:"room for the hand to its neighbours; 20 when left out"`
	Turn        *bool          `json:"turn,omitempty" doc:"may be turned by 90 degrees in its place; left out: no on a wall, yes lying"`
	Realm       string         `json:"realm,omitempty" enum:"shop,household" doc:"whether it belongs to the shop or to the household"`
	Whose       string         `json:"whose,omitempty" doc:"id of the person who uses it; whoever reaches least counts when left out"`
	Lies        string         `json:"lies,omitempty" doc:"place in which it lies on top, or leans, without a spot of its own; counts only while it has no home"`
	Status      string         `json:"status,omitempty" enum:"owned,wished,limbo" doc:"owned when left out"`
	Keep        bool           `json:"keep,omitempty" doc:"never suggested for leaving"`
	PromisedTo  string         `json:"promised_to,omitempty" doc:"project it is kept for"`
	GoesTo      string         `json:"goes_to,omitempty" doc:"where it is to go"`
	Review      string         `json:"review,omitempty" doc:"date of decision, as 2027-05-31"`
	Twins       int            `json:"twins,omitempty" min:"0" max:"50" doc:"how many are wanted at different places"`
	Outline     []Point        `json:"outline,omitempty" doc:"its true shape from the front: corners in order from the left lower corner of its width and height, within them; 3 to 200"`
	Photos      []string       `json:"photos,omitempty" doc:"names of its photos in the folder photos of a zip, best first"`
	With        []string       `json:"with,omitempty" doc:"ids of things that are wanted whenever it is used: its key, its fence, its bits; they may be gone since"`
	SetUp       string         `json:"set_up,omitempty" doc:"how it is set up: which bit, which shim, how wide the insert"`
	Wood        *Wood          `json:"wood,omitempty" doc:"of a board, sheet, billet or offcut: what wood it is"`
	Stock       *Stock         `json:"stock,omitempty" doc:"of a consumable: what there is of it and when it is bought"`
	Limbo       string         `json:"limbo,omitempty" enum:"repair,sell,give,decide" doc:"what it waits for, of one that is to leave or not to be used meanwhile"`
	LimboSince  string         `json:"limbo_since,omitempty" doc:"day since which it waits, as 2027-05-31"`
	Due         string         `json:"due,omitempty" doc:"day by which it is to be inspected or replaced, as 2027-05-31: a filter, an extinguisher, a first-aid box"`
	Notes       string         `json:"notes,omitempty" doc:"free text"`
}

// Stock of a consumable.
type Stock struct {
	Has    float64 `json:"has" min:"0" max:"1000000" doc:"how much there is"`
	Unit   string  `json:"unit,omitempty" doc:"of what: sheets, ml, m; pieces when left out"`
	Low    float64 `json:"low,omitempty" min:"0" max:"1000000" doc:"from so few on it is bought; learned from use when left out"`
	Par    float64 `json:"par,omitempty" min:"0" max:"1000000" doc:"how much is wanted there; learned from use when left out"`
	At     string  `json:"at,omitempty" doc:"kind of shop it is bought at: timber yard, hardware, paint"`
	Size   string  `json:"size,omitempty" doc:"size or grit one keeps to, so that refills fit"`
	Opened string  `json:"opened,omitempty" doc:"day it was opened, as 2027-05-31"`
	Keeps  float64 `json:"keeps,omitempty" min:"0" max:"600" doc:"months it keeps once opened, as it says on it"`
	Litres float64 `json:"litres,omitempty" min:"0" max:"1000" doc:"of one full container of it; by its size when left out"`
}

// Upkeep is work that comes again: by days, by uses of a thing, by hours at a machine.
type Upkeep struct {
	ID      string  `json:"id" need:"yes" doc:"unique name"`
	Name    string  `json:"name" need:"yes" doc:"what is done"`
	On      string  `json:"on,omitempty" doc:"id of the thing, station or place it is done to; it may be gone since"`
	Days    int     `json:"days,omitempty" min:"0" max:"36500" doc:"every so many days"`
	Months  int     `json:"months,omitempty" min:"0" max:"1200" doc:"every so many months, on the same day or the last of a shorter month"`
	Uses    int     `json:"uses,omitempty" min:"0" max:"1000000" doc:"every so many uses of the thing, or at the station"`
	Hours   float64 `json:"hours,omitempty" min:"0" max:"100000" doc:"every so many hours of the machine, as estimated from uses at it"`
	Yearly  string  `json:"yearly,omitempty" doc:"month and day it is done each year, as 10-15"`
	Minutes float64 `json:"minutes,omitempty" min:"0" max:"1440" doc:"how long it takes; ten when left out"`
	Last    string  `json:"last,omitempty" doc:"day it was done last, as 2027-05-31"`
	Until   string  `json:"until,omitempty" doc:"put off until this day"`
	Why     string  `json:"why,omitempty" doc:"why it was put off"`
	Notes   string  `json:"notes,omitempty" doc:"free text: which oil, which strap"`
}

// Project that is under way.
type Project struct {
	ID      string        `json:"id" need:"yes" doc:"unique name"`
	Name    string        `json:"name" need:"yes" doc:"what is made; also what wood and things are promised to"`
	State   string        `json:"state,omitempty" enum:"open,done,dropped" doc:"open when left out"`
	Started string        `json:"started,omitempty" doc:"day, as 2027-05-31"`
	Touched string        `json:"touched,omitempty" doc:"day it was worked on last"`
	Place   string        `json:"place,omitempty" doc:"place its parts are kept in meanwhile; it may be gone since"`
	W       length.Length `json:"w,omitempty" min:"0" max:"20000" doc:"width of it put together"`
	D       length.Length `json:"d,omitempty" min:"0" max:"20000" doc:"depth of it put together"`
	H       length.Length `json:"h,omitempty" min:"0" max:"20000" doc:"height of it put together"`
	Hours   float64       `json:"hours,omitempty" min:"0" max:"100000" doc:"how much work is left, about"`
	Dries   string        `json:"dries,omitempty" doc:"day until which finish or glue on it dries where its parts are kept, as 2027-05-31; nothing dries when left out"`
	Notes   string        `json:"notes,omitempty" doc:"free text"`
}

// Aim is what a year is to bring.
type Aim struct {
	ID     string  `json:"id" need:"yes" doc:"unique name"`
	Name   string  `json:"name" need:"yes" doc:"what is aimed at, in words"`
	What   string  `json:"what,omitempty" enum:"handling,homeless,open-floor,untouched,full-walls,projects,household,in-order" doc:"figure it is measured by; judged by hand when left out"`
	To     float64 `json:"to,omitempty" min:"0" max:"1000000" doc:"what the figure is to come to at most; of open floor and of what stands in order at least"`
	Weight float64 `json:"weight,omitempty" min:"0" max:"10" doc:"how much it counts among aims; 1 when left out"`
	Set    string  `json:"set,omitempty" doc:"day it was set, as 2027-05-31"`
	By     string  `json:"by,omitempty" doc:"day by which"`
	State  string  `json:"state,omitempty" enum:"reached,missed,dropped" doc:"as judged; by its figure when left out"`
}

// Trial of doing without something.
type Trial struct {
	ID      string `json:"id" need:"yes" doc:"unique name"`
	Without string `json:"without" need:"yes" doc:"name of what one does without"`
	Item    string `json:"item,omitempty" doc:"id of the thing or station; it may be gone since"`
	Instead string `json:"instead,omitempty" doc:"what is used instead, in words"`
	Lost    string `json:"lost,omitempty" doc:"what cannot be done so, in words"`
	Since   string `json:"since,omitempty" doc:"day it began, as 2027-05-31"`
	Review  string `json:"review,omitempty" doc:"day it is judged"`
	State   string `json:"state,omitempty" enum:"goes,stays" doc:"how it was judged; under way when left out"`
}

// Regret is what one would not do again.
type Regret struct {
	ID   string `json:"id" need:"yes" doc:"unique name"`
	Kind string `json:"kind" need:"yes" doc:"kind of thing or storage, or a word of its name: it is shown when something like it is chosen"`
	Says string `json:"says" need:"yes" doc:"what was done, and why not again"`
	Day  string `json:"day,omitempty" doc:"when, as 2027-05-31"`
}

// Together are machines that run at the same time.
type Together struct {
	Name     string   `json:"name" need:"yes" doc:"what is done then"`
	Stations []string `json:"stations,omitempty" doc:"ids of them; they may be gone since"`
}

// Strip is a power strip, reel or lead with several sockets.
type Strip struct {
	ID       string        `json:"id" need:"yes" doc:"unique name, also among outlets"`
	Name     string        `json:"name" need:"yes" doc:"what it is called"`
	Into     string        `json:"into,omitempty" doc:"outlet or strip it is plugged into; nothing when left out"`
	Lead     length.Length `json:"lead" need:"yes" min:"0" max:"100000" doc:"length of its lead"`
	Rated    float64       `json:"rated,omitempty" min:"0" max:"400" doc:"A it carries, as printed on it; not known when left out"`
	Reel     bool          `json:"reel,omitempty" doc:"its lead is wound on a drum"`
	Overhead bool          `json:"overhead,omitempty" doc:"it hangs from the ceiling: its lead crosses no way"`
}

// Stored is what is worked from batteries.
type Stored struct {
	Hours     float64   `json:"hours" need:"yes" over:"0" max:"24" doc:"how long a session lasts"`
	Batteries []Battery `json:"batteries,omitempty" doc:"batteries there are"`
	Draws     []Draw    `json:"draws,omitempty" doc:"what draws from them in a session"`
	Chargers  int       `json:"chargers,omitempty" min:"0" max:"100" doc:"how many are charged at once; one when left out"`
}

// Battery of which there are several alike.
type Battery struct {
	Name   string  `json:"name" need:"yes" doc:"what they are called"`
	N      int     `json:"n" need:"yes" min:"1" max:"500" doc:"how many"`
	Volts  float64 `json:"volts" need:"yes" over:"0" max:"1000" doc:"V, as printed on it"`
	AH     float64 `json:"ah" need:"yes" over:"0" max:"2000" doc:"Ah, as printed on it"`
	Charge float64 `json:"charge,omitempty" min:"0" max:"2880" doc:"minutes to charge one; an hour when left out"`
}

// Draw is what something takes out of batteries in a session.
type Draw struct {
	Name    string  `json:"name" need:"yes" doc:"what it is"`
	Battery string  `json:"battery,omitempty" doc:"name of the batteries it runs on; the first when left out"`
	Watts   float64 `json:"watts" need:"yes" over:"0" max:"20000" doc:"W while it runs"`
	Minutes float64 `json:"minutes,omitempty" min:"0" max:"1440" doc:"so long a session; all of it when left out"`
}

// CutList is the parts of something that is built.
type CutList struct {
	Name  string   `json:"name" need:"yes" doc:"what is built; also the project wood is promised to"`
	Parts []string `json:"parts,omitempty" doc:"a line each, as 2 sides 720x300x18 birch ply"`
	Buy   []string `json:"buy,omitempty" doc:"what may be bought, a line each, as birch ply 2440x1220x18 at 60"`
}

// Wood is what is said of a board, sheet, billet or offcut beside its size. Its longest side is its length, its shortest its thickness.
type Wood struct {
	Of       string  `json:"of,omitempty" enum:"red-oak,white-oak,hard-maple,soft-maple,cherry,walnut,ash,beech,yellow-birch,yellow-poplar,white-pine,douglas-fir,sitka-spruce,larch,redcedar,loblolly-pine,plywood,birch-plywood,mdf,particle-board,osb" doc:"kind of wood or sheet; not known when left out"`
	Form     string  `json:"form" need:"yes" enum:"board,sheet,billet,moulding,veneer,offcut" doc:"what it is"`
	Across   bool    `json:"across,omitempty" doc:"the grain runs across its length"`
	About    bool    `json:"about,omitempty" doc:"its size is no more than a guess"`
	Flaws    string  `json:"flaws,omitempty" doc:"knots, shakes, a bow, in words"`
	Moisture float64 `json:"moisture,omitempty" min:"0" max:"200" doc:"per cent of its dry weight; not measured when left out"`
	Measured string  `json:"measured,omitempty" doc:"day on which that was, as 2027-05-31"`
	Came     string  `json:"came,omitempty" doc:"day it came, as 2027-05-31"`
	Source   string  `json:"source,omitempty" doc:"where it is from"`
	Price    float64 `json:"price,omitempty" min:"0" max:"1000000" doc:"of one piece"`
	Salvaged bool    `json:"salvaged,omitempty" doc:"from something taken apart: nails and screws may be in it"`
}

// Kit is a set of things that are taken together: for a task, at a machine, on a trip outdoors.
type Kit struct {
	ID    string    `json:"id" need:"yes" doc:"unique name"`
	Name  string    `json:"name" need:"yes" doc:"shown to people"`
	Items []KitItem `json:"items,omitempty" doc:"what belongs to it; things may be gone since"`
	Drops []string  `json:"drops,omitempty" doc:"ids of stations at which it is put down on the way, when it travels; they may be gone since"`
	Notes string    `json:"notes,omitempty" doc:"free text"`
}

// KitItem is a thing of a kit.
type KitItem struct {
	Item string `json:"item" need:"yes" doc:"id of the thing"`
	N    int    `json:"n,omitempty" min:"0" max:"10000" doc:"how many; 1 when left out"`
}

// Number of pieces that belong to the kit.
func (k *KitItem) Number() int { return max(1, k.N) }

// Size of an item: w across, h up, d from front to back.
type Size struct {
	W length.Length `json:"w" need:"yes" over:"0" max:"20000" doc:"width"`
	H length.Length `json:"h" need:"yes" over:"0" max:"20000" doc:"height"`
	D length.Length `json:"d" need:"yes" over:"0" max:"20000" doc:"depth"`
}

// Home says where an item lives and the spot in the place. What the numbers
// mean depends on the kind of place; see docs/format.
type Home struct {
	Item   string        `json:"item" need:"yes" doc:"id of the item"`
	Place  string        `json:"place" need:"yes" doc:"id of the place"`
	X      length.Length `json:"x,omitempty" min:"-5000" max:"20000" doc:"from the left"`
	Y      length.Length `json:"y,omitempty" min:"0" max:"20000" doc:"from the front, or out from the wall on arms"`
	Z      length.Length `json:"z,omitempty" min:"0" max:"6000" doc:"from the lower edge, or in the pile on arms"`
	Rot    int           `json:"rot,omitempty" enum:"0,90" doc:"turned by 90 degrees"`
	Row    int           `json:"row,omitempty" min:"0" max:"1" doc:"on a shelf: 0 in front, 1 behind"`
	Slot   int           `json:"slot,omitempty" min:"0" max:"10000" doc:"first slot or rail position, from 0"`
	Level  int           `json:"level,omitempty" min:"0" max:"100" doc:"level of arms, 0 the lowest"`
	N      int           `json:"n,omitempty" min:"0" max:"10000" doc:"how many of the item live here; all when left out"`
	Cols   int           `json:"cols,omitempty" min:"0" max:"10000" doc:"how many of them side by side before the next row starts; all when left out"`
	Locked bool          `json:"locked,omitempty" doc:"stays where it is"`
}

// Target is a plan that was accepted or parked: where things are to live, in which storage, with which stations where. Homes stay
// as they are until each thing is moved.
type Target struct {
	ID         string          `json:"id" need:"yes" doc:"unique name"`
	Name       string          `json:"name" need:"yes" doc:"shown to people"`
	Note       string          `json:"note,omitempty" doc:"why, in free text"`
	Made       string          `json:"made,omitempty" doc:"day it was made, as 2027-05-31"`
	Judge      string          `json:"judge,omitempty" doc:"day on which to judge it, as 2027-05-31"`
	Homes      []Home          `json:"homes,omitempty" doc:"where things are to live; ids of things or places may be gone since"`
	Storage    bool            `json:"storage,omitempty" doc:"places and containers are part of it; else they stay as they are"`
	Containers []Container     `json:"containers,omitempty" doc:"the containers there are to be"`
	Places     []Place         `json:"places,omitempty" doc:"the places there are to be"`
	Stations   []StationTarget `json:"stations,omitempty" doc:"where stations are to stand; what is not named stays"`
	Aside      []Aside         `json:"aside,omitempty" doc:"what was put somewhere for a while that is no place, until it is moved on"`
	Left       []Left          `json:"left,omitempty" doc:"what was taken out of it, with the reason"`
}

// StationTarget is where a station is to stand.
type StationTarget struct {
	ID    string        `json:"id" need:"yes" doc:"id of the station"`
	X     length.Length `json:"x" doc:"left edge of the footprint"`
	Y     length.Length `json:"y" doc:"lower edge of the footprint"`
	Rot   float64       `json:"rot,omitempty" min:"-360" max:"360" doc:"degrees anticlockwise"`
	Stand Point         `json:"stand" need:"yes" doc:"where one stands to work there"`
}

// Left is a thing that stays where it is though a target has another home for it.
type Left struct {
	Item string `json:"item" need:"yes" doc:"id of the thing"`
	Why  string `json:"why,omitempty" doc:"why it was not moved"`
}

// Aside are pieces that lie somewhere for a while.
type Aside struct {
	Item string `json:"item" need:"yes" doc:"id of the thing"`
	N    int    `json:"n,omitempty" min:"0" max:"10000" doc:"how many; all when left out"`
	On   string `json:"on" need:"yes" doc:"where, in words"`
}

// Mode is one arrangement of the floor.
type Mode struct {
	ID           string              `json:"id" need:"yes" doc:"unique name"`
	Name         string              `json:"name" need:"yes" doc:"shown to people"`
	HoursPerWeek float64             `json:"hours_per_week,omitempty" min:"0" max:"168" doc:"how long it lasts"`
	Spots        map[string]Standing `json:"spots,omitempty" doc:"where movable stations and containers are, by id"`
}

// Standing is where a movable thing is in a mode: on the floor, or in one of the
// states folded, hoisted, outdoors and away.
type Standing struct {
	State string  // folded, hoisted, outdoors, away; empty on the floor
	Floor Point   // left and lower edge of the footprint
	Rot   float64 // degrees anticlockwise
}

// FitReport is what hobrak fit adds to the plan it writes. Costs are seconds a week.
type FitReport struct {
	Before     float64    `json:"before" doc:"weekly handling of the homes that were given"`
	Objective  float64    `json:"objective" doc:"weekly handling of the homes in this file"`
	Bound      float64    `json:"bound" doc:"no plan for these places can cost less"`
	Gap        float64    `json:"gap" doc:"(objective - bound) / objective"`
	Homeless   []Homeless `json:"homeless" need:"yes" doc:"what found no home"`
	Iterations int        `json:"iterations" doc:"how many improvements were tried"`
	Millis     int64      `json:"millis" doc:"how long it took"`
	Seed       uint64     `json:"seed" doc:"seed of the search"`
}

// Homeless is an item without a home and why.
type Homeless struct {
	Item           string `json:"item" need:"yes" doc:"id of the item"`
	Why            string `json:"why" need:"yes" doc:"what bars the places it might have"`
	SmallestChange string `json:"smallest_change" doc:"the smallest change that would give it a home"`
}
