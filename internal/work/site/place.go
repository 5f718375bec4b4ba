package site

import (
	"context"
	"slices"
	"time"

	"github.com/google/uuid"

	"ulpa/core/calendar"
	"ulpa/core/climate"
	"ulpa/core/crop"
	"ulpa/core/raft"
	"ulpa/core/tray"
	"ulpa/internal/base/ledger"
	"ulpa/internal/base/store"
	"ulpa/internal/base/store/db"
	"ulpa/internal/base/who"
)

// Place is where plants, trays and tanks stand.
type Place struct {
	ID             uuid.UUID
	Name, Kind     string
	Tiers, Columns int // of its ports; 0: it has none
	Boards         int // in which a raft floats; 0: in one piece
	LengthCM       float64
	WidthCM        float64
	TemperatureC   float64  // as its meter says, else as it is in this season
	Measured       bool     // by its meter, over the last week
	Guessed        bool     // nobody said how warm it is
	Humidity       *float64 // of its air, %, by its meter over the last week; nil: none says
	seasons        [4]*float64
	usualC         float64
	daylight       *float64
	lampMol        *float64
	Retired        bool
}

// PortNumber is a port's number, from 1 along the rows, as jars have it.
func (p Place) PortNumber(tier, col int) int { return tier*p.Columns + col + 1 }

// HasPorts tells whether plants stand in ports there, one in each.
func (p Place) HasPorts() bool { return p.Tiers > 0 && p.Columns > 0 }

// outdoorsC is the mean of a year outside where nobody said, usual of temperate places.
const outdoorsC = 10

// outdoors tells whether a kind of place follows the weather outside.
func outdoors(kind string) bool { return kind == "bed" || kind == "frame" }

// UsualC is how warm it usually is there in a season, of which 0 is winter.
func (p Place) UsualC(at time.Time, w who.Who) float64 {
	if c := p.seasons[w.Season(at)]; c != nil {
		return *c
	}
	if outdoors(p.Kind) {
		return p.usualC + climate.MonthSwing(at, w.South())
	}
	return p.usualC
}

// What comes to a place of which nothing is said: through glass so much of the daylight, and
// from the lamps of a shelf as much as a leafy crop needs.
const (
	underGlass = 0.6
	shelfMol   = 12
)

// Light is how much of the daylight comes there, as a share of that outside, and what its
// lamps give in mol/m² a day.
func (p Place) Light() (daylight, lampMol float64) {
	switch p.Kind {
	case "bed", "frame":
		daylight = 1
	case "shelf", "warm_shelf":
		lampMol = shelfMol
	default:
		daylight = underGlass
	}
	if p.daylight != nil {
		daylight = *p.daylight
	}
	if p.lampMol != nil {
		lampMol = *p.lampMol
	}
	return daylight, lampMol
}

// usualSky is how much of the sun's light on a clear day comes down on a usual one.
const usualSky = 0.5

// LightMol is the light of a usual day at the place, sun and lamps together, in mol/m².
func (p Place) LightMol(latitude float64, d calendar.Day) float64 {
	daylight, lamps := p.Light()
	l, err := climate.OfDay(climate.LightInput{LatitudeDeg: latitude, Day: d, CoverTransmission: usualSky * daylight})
	if err != nil { // the share is none at all
		return lamps
	}
	return l.DLI + lamps
}

// Weather is all that its usual warmth and light hang on, to tell them from those of other days.
func (p Place) Weather() []any {
	daylight, lamps := p.Light()
	return []any{p.Kind, p.seasons, p.usualC, daylight, lamps}
}

// Window tells whether its light comes from one side: glass indoors, and no lamps.
func (p Place) Window() bool {
	daylight, lamps := p.Light()
	return Indoors(p.Kind) && daylight > 0 && lamps == 0
}

// Tray is a tray, where it stands, and how many of its cells are in use.
type Tray struct {
	ID, Place     uuid.UUID
	Name          string
	Rows, Columns int
	CellML        float64
	Used          int
	Kind, Medium  string // of core/tray
	Drains        bool
	HeightCM      float64 // 0: not said
}

// Cells is how many it has.
func (t Tray) Cells() int { return t.Rows * t.Columns }

// Open tells whether its rows are not parted into cells, and hold many seedlings each.
func (t Tray) Open() bool { return tray.KindOf(t.Kind).Open }

// Places reads every place in walking order.
func Places(ctx context.Context, tx *store.Tx) (out []Place, err error) {
	rows, err := tx.ListPlaces(ctx)
	if err != nil {
		return nil, err
	}
	return placesOf(ctx, tx, rows...)
}

// PlacesOfWalk are the places as the round goes by them: for a minute, or until one changes.
func PlacesOfWalk(ctx context.Context, tx *store.Tx) ([]Place, error) {
	return store.Keep(ctx, tx, "places of the walk "+tx.Minute(), func() ([]Place, error) { return Places(ctx, tx) })
}

// GetPlace reads a place.
func GetPlace(ctx context.Context, tx *store.Tx, id uuid.UUID) (Place, error) {
	r, err := tx.GetPlace(ctx, id)
	if err != nil {
		return Place{}, err
	}
	return placeOf(ctx, tx, r)
}

func placeOf(ctx context.Context, tx *store.Tx, r db.Place) (Place, error) {
	list, err := placesOf(ctx, tx, r)
	if err != nil {
		return Place{}, err
	}
	return list[0], nil
}

// meterDays is how far back a place's meter says how warm it is there.
const meterDays = 7

// placesOf are places, each as warm as its meter says; without one, or when it has been
// silent for a week, as is usual in this season.
func placesOf(ctx context.Context, tx *store.Tx, rows ...db.Place) (out []Place, err error) {
	var meters []uuid.UUID
	for _, r := range rows {
		if r.MeterID != nil {
			meters = append(meters, *r.MeterID)
		}
		if r.HumidID != nil {
			meters = append(meters, *r.HumidID)
		}
	}
	var means []db.MeterMeansRow
	if len(meters) > 0 {
		if means, err = tx.MeterMeans(ctx, db.MeterMeansParams{Meters: meters, Since: tx.Now.AddDate(0, 0, -meterDays), Until: tx.Now}); err != nil {
			return nil, err
		}
	}
	for _, r := range rows {
		p := Place{ID: r.ID, Name: r.Name, Kind: r.Kind, Tiers: r.Tiers, Columns: r.Columns, Boards: r.Boards, Retired: r.Retired}
		p.LengthCM, p.WidthCM = r.LengthCm, r.WidthCm
		if p.usualC = outdoorsC; r.TemperatureC != nil {
			p.usualC = *r.TemperatureC
		}
		p.Guessed, p.seasons = r.TemperatureC == nil, [4]*float64{r.WinterC, r.SpringC, r.SummerC, r.AutumnC}
		p.daylight = r.Daylight
		if r.LampUmol != nil && r.LampHours != nil {
			mol := *r.LampUmol * *r.LampHours * 3600 / 1e6
			p.lampMol = &mol
		}
		p.TemperatureC = p.UsualC(tx.Now, tx.Who)
		for _, m := range means {
			if r.MeterID != nil && m.SeriesID == *r.MeterID {
				p.TemperatureC, p.Measured = m.Mean, true
			}
			if r.HumidID != nil && m.SeriesID == *r.HumidID {
				p.Humidity = &m.Mean
			}
		}
		out = append(out, p)
	}
	return out, nil
}

// Trays reads every tray.
func Trays(ctx context.Context, tx *store.Tx) ([]Tray, error) {
	all, err := store.Keep(ctx, tx, "trays", func() (out []Tray, err error) {
		rows, err := tx.ListTrays(ctx)
		for _, r := range rows {
			out = append(out, trayOf(r))
		}
		return out, err
	})
	return slices.Clone(all), err
}

// GetTray reads a tray.
func GetTray(ctx context.Context, tx *store.Tx, id uuid.UUID) (Tray, error) {
	r, err := tx.GetTray(ctx, id)
	return trayOf(db.ListTraysRow(r)), err
}

func trayOf(r db.ListTraysRow) Tray {
	return Tray{r.ID, r.PlaceID, r.Name, r.Rows, r.Columns, r.CellMl, r.Used, r.Kind, r.Medium, r.Drains, r.HeightCm}
}

// Port is a port that holds a plant.
type Port struct {
	Tier, Col  int
	Batch      uuid.UUID
	Code, Crop string
	SownAt     time.Time
}

// Stand is plants of one batch in a frame, in a bed or on a bench.
type Stand struct {
	Batch      uuid.UUID
	Plants     int
	Code, Crop string
	SownAt     time.Time
}

// Contents is a place with what stands in it.
type Contents struct {
	Place
	Raft   raft.Raft // how its ports lie on boards
	Ports  []Port
	Stands []Stand
	Trays  []Tray
	Tanks  []ledger.Tank
}

// LoadPorts reads what stands in the ports of places, and how those float that are rafts.
func LoadPorts(ctx context.Context, tx *store.Tx, places ...Place) (out []Contents, err error) {
	if len(places) == 0 {
		return nil, nil
	}
	afloat, err := floats(ctx, tx, places)
	if err != nil {
		return nil, err
	}
	var ids []uuid.UUID
	for i, p := range places {
		ids = append(ids, p.ID)
		out = append(out, Contents{Place: p, Raft: afloat[i].Raft})
	}
	ports, err := tx.PortsOfPlaces(ctx, ids)
	for _, x := range ports {
		p := &out[slices.Index(ids, x.PlaceID)]
		p.Ports = append(p.Ports, Port{x.Tier, x.Col, x.BatchID, x.Code, x.Crop, x.SownAt})
	}
	return out, err
}

// Load reads a place with what stands in it.
func Load(ctx context.Context, tx *store.Tx, id uuid.UUID) (p Contents, err error) {
	place, err := GetPlace(ctx, tx, id)
	if err != nil {
		return p, err
	}
	in, err := LoadPorts(ctx, tx, place)
	if err != nil {
		return p, err
	}
	p = in[0]
	stands, err := tx.StandsOfPlace(ctx, id)
	if err != nil {
		return p, err
	}
	for _, x := range stands {
		p.Stands = append(p.Stands, Stand{x.BatchID, x.Plants, x.Code, x.Crop, x.SownAt})
	}
	trays, err := tx.TraysOfPlace(ctx, id)
	if err != nil {
		return p, err
	}
	for _, t := range trays {
		p.Trays = append(p.Trays, trayOf(db.ListTraysRow(t)))
	}
	p.Tanks, err = ledger.TanksOfPlace(ctx, tx, id)
	return p, err
}

// Standing is how many plants of a batch are somewhere.
type Standing struct {
	Batch     uuid.UUID
	Code      string
	Crop      crop.Crop
	Plants    int
	Undecided int // cells sown, of which nothing is up
	Sown      time.Time
}

// ByBatch counts what stands in the place, batch by batch.
func (p Contents) ByBatch() []Standing {
	var out []Standing
	index := map[uuid.UUID]int{}
	add := func(id uuid.UUID, code, cropID string, sown time.Time, n int) {
		if _, ok := index[id]; !ok {
			index[id] = len(out)
			c, _ := crop.Of(cropID)
			out = append(out, Standing{Batch: id, Code: code, Crop: c, Sown: sown})
		}
		out[index[id]].Plants += n
	}
	for _, x := range p.Ports {
		add(x.Batch, x.Code, x.Crop, x.SownAt, 1)
	}
	for _, x := range p.Stands {
		add(x.Batch, x.Code, x.Crop, x.SownAt, x.Plants)
	}
	return out
}

// InPort is what stands in a port by its number, from 1, as ByBatch tells it.
func (p Contents) InPort(number int) []Standing {
	one := Contents{}
	for _, x := range p.Ports {
		if p.PortNumber(x.Tier, x.Col) == number {
			one.Ports = append(one.Ports, x)
		}
	}
	return one.ByBatch()
}

// Get reads a place with what stands in it.
func Get(ctx context.Context, s *store.Store, w who.Who, id uuid.UUID) (p Contents, err error) {
	err = s.Read(ctx, w, func(tx *store.Tx) error {
		p, err = Load(ctx, tx, id)
		return err
	})
	return p, err
}

func (p *Contents) gather(trays []Tray, tanks []ledger.Tank) {
	for _, t := range trays {
		if t.Place == p.ID {
			p.Trays = append(p.Trays, t)
		}
	}
	for _, t := range tanks {
		if t.Place == p.ID {
			p.Tanks = append(p.Tanks, t)
		}
	}
}

// Summary is a place in the list: what stands there, counted.
type Summary struct {
	Contents
	Standing []Standing
}

// All reads every place in walking order.
func All(ctx context.Context, s *store.Store, w who.Who) (out []Summary, err error) {
	err = s.Read(ctx, w, func(tx *store.Tx) error {
		out, err = store.Keep(ctx, tx, "places "+tx.Minute(), func() ([]Summary, error) { return all(ctx, tx) })
		return err
	})
	return out, err
}

func all(ctx context.Context, tx *store.Tx) (out []Summary, err error) {
	places, err := Places(ctx, tx)
	if err != nil {
		return nil, err
	}
	where, err := where(ctx, tx)
	if err != nil {
		return nil, err
	}
	batches, err := tx.ListBatches(ctx, nil)
	if err != nil {
		return nil, err
	}
	trays, err := Trays(ctx, tx)
	if err != nil {
		return nil, err
	}
	tanks, err := ledger.Tanks(ctx, tx)
	byID := map[uuid.UUID]db.ListBatchesRow{}
	for _, b := range batches {
		byID[b.ID] = b
	}
	for _, r := range places {
		x := Summary{Contents: Contents{Place: r}}
		x.gather(trays, tanks)
		for _, at := range where {
			if b, ok := byID[at.BatchID]; ok && at.PlaceID == r.ID {
				c, _ := crop.Of(b.Crop)
				x.Standing = append(x.Standing, Standing{Batch: b.ID, Code: b.Code, Crop: c, Plants: at.Plants, Undecided: at.Waiting})
			}
		}
		out = append(out, x)
	}
	return out, err
}
