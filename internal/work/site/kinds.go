package site

import (
	"context"

	"github.com/google/uuid"

	"ulpa/core/batch"
	"ulpa/core/say"
	"ulpa/internal/base/ledger"
	"ulpa/internal/base/store"
)

// What is written down of plants that go from one place to another.
var (
	Moved = ledger.Declare(ledger.Kind[batch.Act]{Name: string(batch.Move), Act: true, Gone: mixBack, Says: func(a batch.Act) say.Text {
		return lostToo(a, say.T("Moved %s", say.Plural(batch.PlantsIn(a.To), "plant")))
	}})
	PottedOn = ledger.Declare(ledger.Kind[batch.Act]{Name: string(batch.PotOn), Act: true, Gone: mixBack, Says: func(a batch.Act) say.Text {
		return lostToo(a, say.T("Potted on %s", say.Plural(batch.PlantsIn(a.To), "plant")))
	}})
	Hardening = ledger.Declare(ledger.Kind[batch.Act]{Name: string(batch.Harden), Act: true, Gone: mixBack, Says: func(a batch.Act) say.Text {
		return lostToo(a, say.T("Began hardening off %s over %d days", say.Plural(batch.PlantsIn(a.To), "plant"), a.RampDays))
	}})
	WasSetOut = ledger.Declare(ledger.Kind[batch.Act]{Name: string(batch.SetOut), Act: true, Gone: mixBack, Says: func(a batch.Act) say.Text {
		return lostToo(a, say.T("Planted out %s", say.Plural(batch.PlantsIn(a.To), "plant")))
	}})
)

// TrayMoved is a tray that was carried to another place with all that is in it.
type TrayMoved struct {
	Tray string `json:"tray"`
	From string `json:"from"`
	To   string `json:"to"`
}

// Carried is written down of a tray that stands elsewhere now.
var Carried = ledger.Declare(ledger.Kind[TrayMoved]{Name: "carried", Says: func(m TrayMoved) say.Text {
	return say.T("Carried %s from %s to %s", say.Name(m.Tray), say.Name(m.From), say.Name(m.To))
}})

// carried writes down that a tray stands elsewhere now.
func carried(ctx context.Context, tx *store.Tx, old, now TraySetup) error {
	from, err := tx.GetPlace(ctx, old.Place)
	if err != nil {
		return err
	}
	to, err := tx.GetPlace(ctx, now.Place)
	if err != nil {
		return err
	}
	about := []uuid.UUID{now.ID, from.ID, to.ID}
	batches, err := tx.BatchesInTray(ctx, now.ID)
	if err != nil {
		return err
	}
	id, err := uuid.NewV7()
	if err != nil {
		return err
	}
	_, err = ledger.Write(ctx, tx, ledger.Fact{
		ID: id, Kind: Carried.Name, About: append(about, batches...), Names: now.Name, Data: TrayMoved{now.Name, from.Name, to.Name},
	})
	return err
}

func lostToo(a batch.Act, did say.Text) say.Text {
	if len(a.Lost) == 0 {
		return did
	}
	return say.T("%s; lost %d: %s", did, batch.PlantsIn(a.Lost), a.Cause.Name())
}

// Causes are what a loss can be put down to.
func Causes() []ledger.Option { return options(batch.Losing()) }

// Gone is why a cell can be empty that held a plant: a loss, or the plant was given away.
func Gone() []ledger.Option { return options(batch.Causes) }

func options(list []batch.Reason) (out []ledger.Option) {
	for _, x := range list {
		out = append(out, ledger.Option{Value: string(x.ID), Name: x.Name})
	}
	return out
}
