package api

import (
	"net/http"

	"github.com/google/uuid"

	"ulpa/core/calendar"
	"ulpa/core/climate"
	"ulpa/core/tower"
	"ulpa/internal/base/ledger"
	"ulpa/internal/work/site"
)

type airIn struct {
	done
	TempC    *float64 `json:"temperature_c,omitempty"`
	Humidity *float64 `json:"humidity_percent,omitempty"`
	Hours    *float64 `json:"light_hours,omitempty" jsonschema_description:"a day"`
	Umol     *float64 `json:"light_umol,omitempty" jsonschema_description:"µmol/m²/s, at the leaves"`
}

type climateOut struct {
	TempC    float64  `json:"temperature_c"`
	Humidity *float64 `json:"humidity_percent,omitempty"`
	VPDKPa   *float64 `json:"vpd_kpa,omitempty"`
	LightMol float64  `json:"light_mol_m2_day,omitempty" jsonschema_description:"of a usual day, sun and lamps"`
	Hours    *float64 `json:"light_hours,omitempty"`
}

type ticksIn struct {
	done
	List  string   `json:"list" jsonschema:"enum=start,enum=clean"`
	Steps []string `json:"steps"`
}

type runningOut struct {
	List  string       `json:"list"`
	Name  string       `json:"name"`
	Ended calendar.Day `json:"done_whole_on,omitzero"`
	Steps []stepOut    `json:"steps"`
}

type stepOut struct {
	ID    string        `json:"id"`
	What  string        `json:"what"`
	Why   string        `json:"why"`
	Adult bool          `json:"adult_only,omitempty"`
	Done  *calendar.Day `json:"done_on,omitempty"`
}

func climateAt(c *call, id uuid.UUID) (any, error) {
	x, err := site.ClimateOf(c.ctx, c.Store, c.w, id)
	out := climateOut{TempC: x.TempC, Humidity: x.Humidity, LightMol: x.LightMol, Hours: x.Hours}
	if x.Air != nil {
		out.VPDKPa = &x.Air.VPDKPa
	}
	return out, err
}

func listsAt(c *call, id uuid.UUID) (any, error) {
	all, err := site.Lists(c.ctx, c.Store, c.w, id)
	out := []runningOut{}
	for _, l := range all {
		x := runningOut{List: l.ID, Name: string(l.Name), Ended: l.Ended}
		for _, s := range l.Steps {
			step := stepOut{ID: s.ID, What: string(s.Says), Why: string(s.Why), Adult: s.Adult}
			if day, ok := l.Done[s.ID]; ok {
				step.Done = &day
			}
			x.Steps = append(x.Steps, step)
		}
		out = append(out, x)
	}
	return out, err
}

// ofPlace answers about the place of the path.
func ofPlace(answer func(*call, uuid.UUID) (any, error)) func(*call) (any, error) {
	return func(c *call) (any, error) {
		id, err := c.id("id")
		if err != nil {
			return nil, err
		}
		return answer(c, id)
	}
}

func placeOperations() []operation {
	post, get := http.MethodPost, http.MethodGet
	return []operation{
		{Method: get, Path: "/places/:id/climate", Summary: "Read the air and the light of a place", Out: climateOut{}, Do: ofPlace(climateAt)},
		{
			Method: post, Path: "/places/:id/air", Summary: "Write down the air and the light of a place", In: airIn{}, Out: climateOut{},
			Do: onThing(func(c *call, id uuid.UUID, in airIn) error {
				a := climate.Seen{TempC: in.TempC, Humidity: in.Humidity, Hours: in.Hours, Umol: in.Umol}
				return site.ReadAir(c.ctx, c.Store, c.w, ledger.Act{ID: in.ID, On: id, At: in.At}, a)
			}, climateAt),
		},
		{Method: get, Path: "/places/:id/lists", Summary: "Read the lists of a tower or raft", Out: []runningOut{}, Do: ofPlace(listsAt)},
		{
			Method: post, Path: "/places/:id/lists", Summary: "Write down which steps of a list were done", In: ticksIn{}, Out: []runningOut{},
			Do: onThing(func(c *call, id uuid.UUID, in ticksIn) error {
				return site.Check(c.ctx, c.Store, c.w, ledger.Act{ID: in.ID, On: id, At: in.At}, tower.Ticks{List: in.List, Steps: in.Steps})
			}, listsAt),
		},
	}
}
