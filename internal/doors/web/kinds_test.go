package web_test

import (
	"encoding/json"
	"slices"
	"testing"

	"github.com/stretchr/testify/require"

	"ulpa/core/batch"
	"ulpa/core/climate"
	"ulpa/core/fish"
	"ulpa/core/say"
	"ulpa/core/tank"
	"ulpa/core/tray"
	"ulpa/core/unit"
	"ulpa/internal/base/ledger"
	"ulpa/internal/doors/face"
	"ulpa/internal/work/batches"
	"ulpa/internal/work/harvest"
	"ulpa/internal/work/pictures"
	"ulpa/internal/work/seeds"
	"ulpa/internal/work/site"
	"ulpa/internal/work/solution"
	"ulpa/internal/work/trays"
	"ulpa/internal/work/troughs"
)

// Of every kind that forms ask for: what its form shows of an entry, written down anew,
// shows the same again, zeros and empty ones too, in whatever units.
func TestFormsSayWhatIsKept(t *testing.T) {
	zero, some := 0.0, 6.25
	asked := slices.Concat(
		again(t, solution.Read, tank.Reading{PH: &some, TempC: &zero}, tank.Reading{LevelL: &zero, ECMS: &some}, tank.Reading{}),
		again(t, solution.Treated, tank.Treatment{WaterL: 3.3, StockML: 2}, tank.Treatment{DrainL: 1, Amount: 2.5}),
		again(t, ledger.Noted, ledger.Note{Text: "roots white\nand long"}),
		again(t, batches.Looked, batch.Act{HeightCM: 4.4}, batch.Act{Leaves: 3}),
		again(t, batches.LostSome, batch.Act{Cause: "eaten"}),
		again(t, batches.HandedOver, batch.Act{Way: "sold"}),
		again(t, seeds.TestBegun, seeds.Begun{Seeds: 20, On: "bag", Light: "dark"}),
		again(t, seeds.TestSeen, seeds.Seen{Came: 12, Bad: 1}, seeds.Seen{}),
		again(t, trays.CaredFor, tray.Done{LampCM: &some, NowG: &zero}, tray.Done{DryG: &some, WetG: &zero, LampHours: &some}),
		again(t, pictures.Taken, pictures.Picture{Note: "roots"}, pictures.Picture{}),
		again(t, harvest.Harvested, batch.Act{Grams: 240.5}),
		again(t, site.AirRead, climate.Seen{TempC: &some, Humidity: &zero}, climate.Seen{Hours: &some, Umol: &zero}),
		again(t, troughs.Read, fish.Reading{TAN: &zero, PH: &some, TempC: &some}, fish.Reading{Oxygen: &some}),
		again(t, troughs.Stocked, fish.Stock{Why: fish.PutIn, Fish: 3, MassG: 45}, fish.Stock{Why: fish.Died, Fish: 1, Note: "jumped"}),
		again(t, troughs.Weighed, fish.Sample{Fish: 5, Grams: 340}),
		again(t, troughs.FedFish, fish.Fed{Grams: 6.5, Left: true}, fish.Fed{}),
		again(t, troughs.Changed, fish.Added{ChangeL: 40}, fish.Added{BaseG: 4.5}),
	)
	for _, kind := range ledger.Kinds() {
		for _, i := range ledger.InputsOf(kind) {
			require.NotEmpty(t, i.Label, "%s %s", kind, i.Name)
			require.Contains(t, asked, kind, "its form is not tried")
		}
	}
}

func again[T any](t *testing.T, k *ledger.Kind[T], list ...T) []string {
	for _, v := range list {
		for _, p := range []say.Reader{{}, {Prefs: unit.Parse("us", "ppm500")}} {
			shown := func(v T) *face.Form {
				data, err := json.Marshal(v)
				require.NoError(t, err)
				f, err := face.Refill(k.Name, data, p)
				require.NoError(t, err)
				return f
			}
			f := shown(v)
			require.Equal(t, f.Values, shown(face.Entered(f, k)).Values, "%s %+v", k.Name, v)
			require.Empty(t, f.Errors)
		}
	}
	return []string{k.Name}
}
