package nursery

import (
	"context"

	"github.com/google/uuid"

	"ulpa/core/crop"
	"ulpa/core/field"
	"ulpa/core/name"
	"ulpa/internal/store"
	"ulpa/internal/store/db"
	"ulpa/internal/who"
)

// Packet is a seed lot on the shelf.
type Packet struct {
	ID                  uuid.UUID
	Crop, Variety, Name string
	Packed              int      // the year
	Label               *float64 // the share that sprouts, by the label
	Tested, Sprouted    *int     // by a test of one's own
	SeedsLeft           *int
	variety             uuid.UUID
}

func packetOf(r db.ListLotsRow) Packet {
	return Packet{r.ID, r.Crop, r.Variety, r.Name, r.Packed, r.LabelRate, r.Tested, r.Sprouted, r.SeedsLeft, r.VarietyID}
}

func getPacket(ctx context.Context, tx *store.Tx, id uuid.UUID) (Packet, error) {
	r, err := tx.GetLot(ctx, id)
	return packetOf(db.ListLotsRow(r)), err
}

// NewLot is a packet of seed to be written down. Its variety is made when new.
type NewLot struct {
	ID      uuid.UUID
	Crop    string
	Variety string
	Name    string // what stands on the packet's label
	Packed  int    // year
	Label   *float64
	Tested  *int
	Came    *int // of the tested
	Seeds   *int
}

// AddLot writes down a seed lot.
func AddLot(ctx context.Context, s *store.Store, w who.Who, n NewLot) error {
	if err := w.Must(who.Plan); err != nil {
		return err
	}
	var e field.Errors
	n.Variety, n.Name = name.Take(&e, "variety", n.Variety, 60), name.Take(&e, "name", n.Name, 60)
	_, known := crop.Find(n.Crop)
	e.Require(known, "crop", "choose a crop")
	e.Require(n.Packed >= 1990 && n.Packed <= 2100, "packed", "takes the year it was packed")
	e.Require(n.Label == nil || (*n.Label >= 0 && *n.Label <= 1), "label", "takes 0 to 100 %")
	e.Require(n.Tested == nil || (*n.Tested >= 1 && *n.Tested <= 10000), "tested", "takes 1 or more")
	e.Require((n.Tested == nil) == (n.Came == nil), "sprouted", "say both, how many were tested and how many sprouted")
	if n.Tested != nil && n.Came != nil {
		e.Require(*n.Came >= 0 && *n.Came <= *n.Tested, "sprouted", "takes 0 up to the number tested")
	}
	e.Require(n.Seeds == nil || *n.Seeds >= 0, "seeds", "takes 0 or more")
	if err := e.Err(); err != nil {
		return err
	}
	return s.InSchool(ctx, w, func(tx *store.Tx) error {
		varieties, err := tx.ListVarieties(ctx)
		if err != nil {
			return err
		}
		var id uuid.UUID
		for _, v := range varieties {
			if v.Crop == n.Crop && name.Key(v.Name) == name.Key(n.Variety) {
				id = v.ID
			}
		}
		if id == uuid.Nil {
			if id, err = uuid.NewV7(); err != nil {
				return err
			}
			if err := tx.AddVariety(ctx, db.AddVarietyParams{SchoolID: w.School, ID: id, Crop: n.Crop, Name: n.Variety}); err != nil {
				return err
			}
		}
		return tx.AddLot(
			ctx,
			db.AddLotParams{
				SchoolID:  w.School,
				ID:        n.ID,
				VarietyID: id,
				Name:      n.Name,
				Packed:    n.Packed,
				LabelRate: n.Label,
				Tested:    n.Tested,
				Sprouted:  n.Came,
				SeedsLeft: n.Seeds,
			},
		)
	})
}
