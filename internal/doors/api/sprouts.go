package api

import (
	"net/http"

	"github.com/google/uuid"

	"ulpa/core/tray"
	"ulpa/internal/base/ledger"
	"ulpa/internal/work/batches"
	"ulpa/internal/work/sprouts"
	"ulpa/internal/work/trays"
)

type soakIn struct {
	done
	Lot     uuid.UUID `json:"lot"`
	Place   uuid.UUID `json:"place"`
	Vessels int       `json:"vessels" jsonschema_description:"jars or trays"`
	Grams   float64   `json:"grams" jsonschema_description:"of dry seed, in all of them"`
	Purpose string    `json:"purpose,omitempty"`
	Sure    bool      `json:"sure,omitempty" jsonschema_description:"somebody comes on the days on which nobody is there"`
}

type tendIn struct {
	done
	Did  []string `json:"did" jsonschema_description:"of sprouts: rinsed, watered, lit; of plants: soaked-through, fed"`
	Sure bool     `json:"sure,omitempty"`
}

type careIn struct {
	done
	tray.Done
}

type careOut struct {
	WaterML float64 `json:"water_ml" jsonschema_description:"that are missing; 0 where that is not known"`
}

func soak(c *call) (any, error) {
	var in soakIn
	if err := c.read(&in); err != nil {
		return nil, err
	}
	out, err := sprouts.Soak(c.ctx, c.Store, c.w, sprouts.SoakRequest{
		ID: in.ID, Lot: in.Lot, Place: in.Place, Vessels: in.Vessels, Grams: in.Grams, Purpose: in.Purpose, At: in.At, Sure: in.Sure,
	})
	if err != nil {
		return nil, err
	}
	b, err := batches.Get(c.ctx, c.Store, c.w, out.Batch)
	return wholeOrNone(b, err)
}

// sproutOperations are what is done from day to day: to sprouts, and to trays.
func sproutOperations() []operation {
	return []operation{
		{Method: http.MethodPost, Path: "/batches/soaked", Summary: "Begin a run of sprouts", In: soakIn{}, Out: batchOut{}, Status: http.StatusCreated, Do: soak},
		{
			Method: http.MethodPost, Path: "/batches/:id/tendings", In: tendIn{}, Out: batchOut{},
			Summary: "Rinse sprouts, give them water or light; soak plants through, or feed them",
			Do: onBatch(func(c *call, id uuid.UUID, in tendIn) error {
				return sprouts.Tend(c.ctx, c.Store, c.w, sprouts.TendRequest{ID: in.ID, Batch: id, Did: in.Did, At: in.At, Sure: in.Sure})
			}),
		},
		{
			Method: http.MethodPost, Path: "/trays/:id/care", Summary: "Write down what was done to a tray", In: careIn{}, Out: careOut{},
			Do: func(c *call) (any, error) {
				id, err := c.id("id")
				if err != nil {
					return nil, err
				}
				var in careIn
				if err := c.read(&in); err != nil {
					return nil, err
				}
				ml, err := trays.Care(c.ctx, c.Store, c.w, ledger.Act{ID: in.ID, On: id, At: in.At}, in.Done)
				return careOut{ml}, err
			},
		},
	}
}
