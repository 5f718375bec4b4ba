package site

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"slices"
	"strconv"
	"strings"

	"github.com/google/uuid"

	"ulpa/core/chemistry"
	"ulpa/core/field"
	"ulpa/core/name"
	"ulpa/core/say"
	"ulpa/core/tank"
	"ulpa/core/unit"
	"ulpa/core/vessel"
	"ulpa/internal/base/ledger"
	"ulpa/internal/base/store"
	"ulpa/internal/base/store/db"
	"ulpa/internal/base/things"
	"ulpa/internal/base/who"
	"ulpa/internal/work/waters"
)

// TankSetup is a tank or a jar as it is set up.
type TankSetup struct {
	ID       uuid.UUID `json:"id"`
	Place    uuid.UUID `json:"place"`
	Name     string    `json:"name"`
	Position int       `json:"port"` // of a jar: the number of its port, from 1
	Spec     tank.Spec `json:"spec"`
	Water    string    `json:"water,omitempty"` // the id of the water it is filled with
	Retired  bool      `json:"retired,omitempty"`
}

// TankKind is how tanks and jars are set up.
var TankKind = &things.Kind[TankSetup]{
	Name: "tanks", One: "tank##thing", Add: "Add a tank", Title: "Tanks",
	About: "Tanks and jars: what they hold, what their water should be, and what is on the shelf to correct it.",
	May:   who.Settings,
	Fields: []ledger.Field[TankSetup]{
		ledger.Short("name", "Name", func(n *TankSetup) *string { return &n.Name }),
		ledger.PickID("place", "At##place", func(n *TankSetup) *uuid.UUID { return &n.Place }),
		ledger.Yes("spec.passive", "a jar, carton or crate without a pump", func(n *TankSetup) *bool { return &n.Spec.Passive }),
		ledger.Amount("spec.capacity_l", "Holds", unit.Litre, func(n *TankSetup) *float64 { return &n.Spec.CapacityL }).
			Hinted("Filled to the brim. Empty: what its shape or its last mark says."),
		ledger.PickOf("spec.filled", "When it is added it is", fills, func(n *TankSetup) *string { return &n.Spec.Filled }).Where("spec.passive", "on").
			Hinted("Afterwards write down what is poured."),
		ledger.PickOf("spec.stick.shape", "Its level is read", sticks, func(n *TankSetup) *string { return (*string)(&n.Spec.Stick.Shape) }).More(),
		stick("length_cm", "Length, inside", func(s *tank.Stick) *float64 { return &s.LengthCM }, vessel.Box).More(),
		stick("width_cm", "Width, inside", func(s *tank.Stick) *float64 { return &s.WidthCM }, vessel.Box).More(),
		stick("top_cm", "Diameter at the top, inside", func(s *tank.Stick) *float64 { return &s.TopCM }, vessel.Cylinder, vessel.RoundTaper).More(),
		stick("bottom_cm", "Diameter at the bottom, inside", func(s *tank.Stick) *float64 { return &s.BottomCM }, vessel.RoundTaper).More(),
		stick("height_cm", "Height, inside", func(s *tank.Stick) *float64 { return &s.HeightCM }, vessel.Box, vessel.Cylinder, vessel.RoundTaper).More(),
		stick("marks.0.depth_cm", "First mark, above the floor", func(s *tank.Stick) *float64 { return &s.Marks[0].DepthCM }, vessel.Marks).More(),
		markLitres("marks.0.litres", "holds at this mark", 0).More(),
		stick("marks.1.depth_cm", "Second mark", func(s *tank.Stick) *float64 { return &s.Marks[1].DepthCM }, vessel.Marks).More(),
		markLitres("marks.1.litres", "holds at this mark", 1).More(),
		stick("marks.2.depth_cm", "Third mark", func(s *tank.Stick) *float64 { return &s.Marks[2].DepthCM }, vessel.Marks).More(),
		markLitres("marks.2.litres", "holds at this mark", 2).More(),
		stick("marks.3.depth_cm", "Fourth mark", func(s *tank.Stick) *float64 { return &s.Marks[3].DepthCM }, vessel.Marks).More(),
		markLitres("marks.3.litres", "holds at this mark", 3).More(),
		ledger.Amount("spec.fill_to_l", "Fill to", unit.Litre, func(n *TankSetup) *float64 { return &n.Spec.FillToL }).More(),
		ledger.Amount("spec.dry_below_l", "Runs dry below", unit.Litre, func(n *TankSetup) *float64 { return &n.Spec.DryBelowL }).More(),
		ledger.Amount("spec.ph_low", "pH from", "", func(n *TankSetup) *float64 { return &n.Spec.PHLow }).More(),
		ledger.Amount("spec.ph_target", "pH wanted", "", func(n *TankSetup) *float64 { return &n.Spec.PHTarget }).More(),
		ledger.Amount("spec.ph_high", "pH to", "", func(n *TankSetup) *float64 { return &n.Spec.PHHigh }).More(),
		ledger.Amount("spec.ec_low", "Strength from", unit.MS, func(n *TankSetup) *float64 { return &n.Spec.ECLow }).More(),
		ledger.Amount("spec.ec_target", "Strength wanted", unit.MS, func(n *TankSetup) *float64 { return &n.Spec.ECTarget }).More(),
		ledger.Amount("spec.ec_high", "Strength to", unit.MS, func(n *TankSetup) *float64 { return &n.Spec.ECHigh }).More(),
		ledger.PickOf("water", "Filled with", []ledger.Option{{Value: "", Name: say.Words("tap water, as below")}}, func(n *TankSetup) *string { return &n.Water }).
			Hinted("For a water with analyses the two figures below come from those.").More(),
		ledger.Amount("spec.water_ec", "Tap water’s strength", unit.MS, func(n *TankSetup) *float64 { return &n.Spec.WaterEC }).More(),
		ledger.Amount("spec.water_alkalinity", "Tap water’s alkalinity", "mg/L CaCO₃", func(n *TankSetup) *float64 { return &n.Spec.WaterAlkalinity }).More(),
		ledger.PickOf("spec.feed", "Fed with", feeds, func(n *TankSetup) *string { return &n.Spec.Feed }).More(),
		ledger.PickOf("spec.stocks", "From these bottles", nil, func(n *TankSetup) *string { return &n.Spec.Stocks }).Where("spec.feed", "").More(),
		ledger.Amount("spec.stock_rise", "1 mL of each stock in 1 L gives", unit.MS, func(n *TankSetup) *float64 { return &n.Spec.StockRise }).
			Where("spec.feed", "").Hinted("Leave it empty if you do not know. To measure it: read a litre of your water; stir in 1 mL of each stock; read " +
			"again. It is the difference.").More(),
		ledger.Amount("spec.spoon_rise", "1 level teaspoon in a bucket gives", unit.MS, func(n *TankSetup) *float64 { return &n.Spec.SpoonRise }).
			Where("spec.feed", tank.BySpoon).Hinted("Stir one dose into a bucket of tap water; read before and after.").More(),
		ledger.Amount("spec.bucket_l", "Litres in that bucket", unit.Litre, func(n *TankSetup) *float64 { return &n.Spec.BucketL }).
			Where("spec.feed", tank.BySpoon).More(),
		ledger.PickOf("spec.acid.agent", "Acid on the shelf", withNone(agents(chemistry.Acids)),
			func(n *TankSetup) *string { return (*string)(&n.Spec.Acid.Agent) }).More(),
		ledger.Amount("spec.acid.strength_percent", "Its strength", "% by mass", func(n *TankSetup) *float64 { return &n.Spec.Acid.StrengthPercent }).
			Where("spec.acid.agent", values(chemistry.Acids)...).More(),
		ledger.Amount("spec.acid.density_g_ml", "Its density", "g/mL", func(n *TankSetup) *float64 { return &n.Spec.Acid.DensityGML }).
			Where("spec.acid.agent", values(chemistry.Acids)...).Hinted("From the label; empty for a powder.").More(),
		ledger.PickOf("spec.base.agent", "Alkali on the shelf", agents(chemistry.Bases),
			func(n *TankSetup) *string { return (*string)(&n.Spec.Base.Agent) }).More(),
		ledger.Amount("spec.base.strength_percent", "The alkali’s strength", "% by mass",
			func(n *TankSetup) *float64 { return &n.Spec.Base.StrengthPercent }).More(),
		ledger.Number("spec.read_every_days", "Read every so many days", func(n *TankSetup) *int { return &n.Spec.ReadEveryDays }).More(),
		ledger.Amount("spec.pump_on_min", "The pump runs", "minutes", func(n *TankSetup) *float64 { return &n.Spec.PumpOnMin }).Where("spec.passive", "").
			Hinted("0: it always runs.").More(),
		ledger.Amount("spec.pump_every_min", "in every", "minutes", func(n *TankSetup) *float64 { return &n.Spec.PumpEveryMin }).Where("spec.passive", "").More(),
		ledger.Number("spec.change_days", "Change all of it every so many days", func(n *TankSetup) *int { return &n.Spec.ChangeDays }).
			Hinted("0: go by what has built up in it, not by the calendar.").More(),
		ledger.Amount("spec.height_cm", "Height of a jar, inside", unit.Centimetre, func(n *TankSetup) *float64 { return &n.Spec.HeightCM }).
			Where("spec.passive", "on").More(),
		ledger.Amount("spec.pot_foot_cm", "Bottom of its net pot, above the floor of the tank",
			unit.Centimetre, func(n *TankSetup) *float64 { return &n.Spec.PotFootCM }).
			Where("spec.passive", "on").More(),
		ledger.Number("port", "The port that a jar belongs to", func(n *TankSetup) *int { return &n.Position }).Where("spec.passive", "on").
			Hinted("Counted from 1 along the shelf.").More(),
	},
	ID:      func(n *TankSetup) *uuid.UUID { return &n.ID },
	Retired: func(n *TankSetup) *bool { return &n.Retired },
	Blank: func() TankSetup {
		return TankSetup{Spec: tank.Usual(tank.Spec{})}
	},
	Pick: pickForTank,
	All: func(ctx context.Context, tx *store.Tx) (out []TankSetup, err error) {
		rows, err := tx.AllTanks(ctx)
		for _, r := range rows {
			n := TankSetup{ID: r.ID, Place: r.PlaceID, Name: r.Name, Position: r.Position, Water: ledger.IDWords(r.WaterID), Retired: r.Retired}
			if err := json.Unmarshal(r.Spec, &n.Spec); err != nil {
				return nil, fmt.Errorf("tank %s: %w", r.Name, err)
			}
			out = append(out, n)
		}
		return out, err
	},
	Label: func(n TankSetup) string { return n.Name },
	Page:  func(n TankSetup) string { return "/tanks/" + n.ID.String() },
	Says: func(n TankSetup) say.Text {
		return say.T(
			"%s, pH %s to %s, %s to %s", say.Of(n.Spec.CapacityL, unit.Litre), say.Figure(n.Spec.PHLow, "pH"), say.Figure(n.Spec.PHHigh, "pH"),
			say.Figure(n.Spec.ECLow, unit.MS), say.Of(n.Spec.ECHigh, unit.MS),
		)
	},
	Check: checkTank,
	Doubts: func(n TankSetup) (out field.Errors) {
		for _, d := range n.Spec.Doubtful() {
			out.Tell("spec."+d.Field, d.Message)
		}
		return out
	},
	Keep: keepTank,
	Drop: func(ctx context.Context, tx *store.Tx, n TankSetup) error {
		return dropped(ctx, tx, n.ID, tx.DropTank)
	},
	Alters: func(ctx context.Context, tx *store.Tx, n TankSetup) (out []say.Text, err error) {
		written, err := tx.TankWritten(ctx, n.ID)
		if written > 0 {
			out = append(out, say.T(
				"%s about it are in the notebook and stay there; from now on advice follows the values you set here.", say.Plural(written, "note"),
			))
		}
		return out, err
	},
}

var fills = []ledger.Option{
	{Value: "", Name: say.T("empty, or not read yet")},
	{Value: tank.FilledFoot, Name: say.T("filled to the bottom of the pot")},
}

// sticks are the ways to read a level.
var sticks = []ledger.Option{
	{Value: "", Name: say.T("in litres, off a scale")},
	{Value: string(vessel.Box), Name: say.T("as a depth, in a box")},
	{Value: string(vessel.Cylinder), Name: say.T("as a depth, in an upright round tank")},
	{Value: string(vessel.RoundTaper), Name: say.T("as a depth, in a bucket wider at the top")},
	{Value: string(vessel.Marks), Name: say.T("as a depth, by marks found by filling")},
}

// feeds are what a tank is fed with.
var feeds = []ledger.Option{
	{Value: "", Name: say.T("two stocks, A and B")},
	{Value: tank.BySpoon, Name: say.T("one powder, by the teaspoon")},
}

// stick is a size of the shape in which a depth is read.
func stick(name string, label say.Words, at func(*tank.Stick) *float64, shapes ...vessel.Shape) ledger.Field[TankSetup] {
	var values []string
	for _, s := range shapes {
		values = append(values, string(s))
	}
	f := ledger.Amount("spec.stick."+name, label, unit.Centimetre, func(n *TankSetup) *float64 { return at(&n.Spec.Stick) })
	return f.Where("spec.stick.shape", values...)
}

func markLitres(name string, label say.Words, i int) ledger.Field[TankSetup] {
	f := ledger.Amount("spec.stick."+name, label, unit.Litre, func(n *TankSetup) *float64 { return &n.Spec.Stick.Marks[i].Litres })
	return f.Where("spec.stick.shape", string(vessel.Marks))
}

func values(list []chemistry.Agent) (out []string) {
	for _, a := range list {
		out = append(out, string(a))
	}
	return out
}

func withNone(list []ledger.Option) []ledger.Option {
	return append([]ledger.Option{{Value: "", Name: say.T("we have none")}}, list...)
}

func agents(list []chemistry.Agent) (out []ledger.Option) {
	for _, a := range list {
		out = append(out, ledger.Option{Value: string(a), Name: a.Words()})
	}
	return out
}

func checkTank(ctx context.Context, tx *store.Tx, old, n *TankSetup) error {
	var e field.Errors
	n.Name = name.Take(&e, "name", n.Name, 60)
	full, err := n.Spec.Stick.Full()
	if wrong, ok := errors.AsType[field.Errors](err); ok {
		for _, w := range wrong {
			e.Tell("spec.stick."+stickField(w.Field), w.Message)
		}
	}
	if n.Spec.CapacityL == 0 {
		n.Spec.CapacityL = full
	}
	n.Spec = tank.Usual(n.Spec)
	x := n.Spec
	e.Require(full == 0 || x.CapacityL <= full*1.001, "spec.capacity_l", "must be no more than the %s of its shape", say.Of(full, unit.Litre))
	e.Require(x.CapacityL > 0 && x.CapacityL <= 1e6, "spec.capacity_l", "must be a volume above 0")
	e.Require(x.FillToL > 0 && x.FillToL <= x.CapacityL, "spec.fill_to_l", "must be a volume up to what it holds")
	e.Require(x.DryBelowL >= 0 && x.DryBelowL < x.FillToL, "spec.dry_below_l", "must be a volume below the fill line")
	e.Require(
		x.PHLow >= 3 && x.PHLow <= x.PHTarget && x.PHTarget <= x.PHHigh && x.PHHigh <= 9, "spec.ph_target", "must be low ≤ target ≤ high, between 3 and 9",
	)
	e.Require(
		x.ECLow >= 0 && x.ECLow <= x.ECTarget && x.ECTarget <= x.ECHigh && x.ECHigh <= 10, "spec.ec_target", "must be low ≤ target ≤ high, up to %s",
		say.Of(10, unit.MS),
	)
	e.Require(x.Feed == "" || x.Feed == tank.BySpoon, "spec.feed", "choose one of the list")
	e.Require(x.StockRise >= 0 && x.StockRise <= 3, "spec.stock_rise", "must be 0 to %s, the rise for 1 mL in 1 L", say.Of(3, unit.MS))
	e.Require(x.SpoonRise >= 0 && x.SpoonRise <= 20, "spec.spoon_rise", "enter the rise for one level teaspoon in that bucket")
	e.Require(x.SpoonRise == 0 || x.BucketL > 0 && x.BucketL <= 1000, "spec.bucket_l", "enter how much water it was")
	e.Require(x.WaterEC >= 0 && x.WaterEC <= 5, "spec.water_ec", "must be 0 to %s", say.Of(5, unit.MS))
	e.Require(x.WaterAlkalinity >= 0 && x.WaterAlkalinity <= 1000, "spec.water_alkalinity", "must be 0 to 1,000 mg/L")
	checkShelf(&e, "spec.acid", x.Acid, true)
	checkShelf(&e, "spec.base", x.Base, false)
	e.Require(x.HeightCM >= 0 && x.HeightCM <= 300, "spec.height_cm", "must be at most %s", say.Of(300, unit.Centimetre))
	e.Require(x.PotFootCM >= 0 && (x.HeightCM == 0 || x.PotFootCM < x.HeightCM), "spec.pot_foot_cm", "must be less than the height")
	e.Require(x.ReadEveryDays >= 1 && x.ReadEveryDays <= 60, "spec.read_every_days", "must be 1 to 60 days")
	e.Require(x.PumpOnMin >= 0 && x.PumpOnMin <= 1440, "spec.pump_on_min", "must be 0 to 1,440 minutes")
	e.Require(x.PumpEveryMin == 0 || x.PumpEveryMin > x.PumpOnMin && x.PumpEveryMin <= 1440, "spec.pump_every_min",
		"must be longer than it runs, up to 1,440 minutes")
	e.Require(x.ChangeDays >= 0 && x.ChangeDays <= 365, "spec.change_days", "must be 0 to 365 days")
	if old == nil || old.Place != n.Place || old.Retired && !n.Retired {
		if err := inPlace(ctx, tx, &e, n.Place); err != nil {
			return err
		}
	}
	if n.Position != 0 {
		p, err := tx.GetPlace(ctx, n.Place)
		if err == nil {
			e.Require(n.Position > 0 && n.Position <= p.Tiers*p.Columns, "port", "must be 1 to %d, the ports of %s", p.Tiers*p.Columns, say.Name(p.Name))
		}
	}
	return e.Err()
}

// checkShelf refuses an acid or alkali that cannot be what its label says: a liquid has a
// density, or it would be weighed as a powder.
func checkShelf(e *field.Errors, at string, p chemistry.Product, acid bool) {
	if p.Agent == "" {
		return
	}
	_, known := chemistry.Agents[p.Agent]
	e.Require(known && p.Agent.Acid() == acid, at+".agent", "choose one of the list")
	e.Require(p.StrengthPercent > 0 && p.StrengthPercent <= 100, at+".strength_percent", "enter the percentage on its label, above 0")
	if acid {
		powder := p.Agent == chemistry.CitricAcid && p.DensityGML == 0
		e.Require(powder || p.DensityGML >= 1 && p.DensityGML <= 1.9, at+".density_g_ml", "must be 1 to 1.9 g/mL, as on the label: this acid is a liquid")
	}
}

// stickField is the name of the tank's own field for a size of its vessel.
func stickField(of string) string {
	switch of {
	case "diameter_cm", "top_diameter_cm":
		return "top_cm"
	case "bottom_diameter_cm":
		return "bottom_cm"
	case "marks":
		return "marks.0.depth_cm"
	}
	return of
}

// pickForTank is where a tank can be, and what it can be filled with.
func pickForTank(ctx context.Context, tx *store.Tx) (things.Options, error) {
	out, err := PickPlace(ctx, tx)
	if err != nil {
		return nil, err
	}
	if out["water"], err = waters.Pick(ctx, tx); err != nil {
		return nil, err
	}
	stocks, err := tx.AllStocks(ctx)
	out["spec.stocks"] = []ledger.Option{{Name: say.Words("bottles not listed here")}}
	for _, x := range stocks {
		if !x.Retired {
			out["spec.stocks"] = append(out["spec.stocks"], ledger.Option{Value: x.ID.String(), Name: say.Name(x.Name)})
		}
	}
	return out, err
}

// keepTank writes a tank; what is kept of its water is folded anew, since it hangs on what
// the tank holds.
func keepTank(ctx context.Context, tx *store.Tx, old *TankSetup, n TankSetup) error {
	if n.Spec.Stocks != "" {
		stocks, err := tx.AllStocks(ctx)
		if err != nil {
			return err
		}
		if !slices.ContainsFunc(stocks, func(x db.Stock) bool { return x.ID.String() == n.Spec.Stocks }) {
			return field.Refuse("spec.stocks", "choose a pair of bottles")
		}
	}
	var filled *uuid.UUID
	if n.Water != "" {
		id, err := uuid.Parse(n.Water)
		if err != nil {
			return field.Refuse("water", "choose a water")
		}
		w, err := waters.Read(ctx, tx, id)
		if err != nil {
			return store.Missing(err, "water", "choose a water")
		}
		waters.Into(&n.Spec, w.Facts)
		filled = &id
	}
	spec, err := json.Marshal(n.Spec)
	if err != nil {
		return err
	}
	if err := tx.PutTank(ctx, db.PutTankParams{
		SchoolID: tx.Who.School, ID: n.ID, PlaceID: n.Place, Name: n.Name, Position: n.Position, Spec: spec, Retired: n.Retired, WaterID: filled,
	}); err != nil {
		return err
	}
	if old != nil {
		return ledger.Refold(ctx, tx, n.ID)
	}
	if n.Spec.Passive && n.Spec.Filled == tank.FilledFoot {
		t, err := ledger.LockTank(ctx, tx, n.ID)
		if err != nil {
			return err
		}
		r := tank.Reading{LevelL: &n.Spec.FillToL}
		_, err = ledger.OnTank(ctx, tx, t, ledger.Fact{ID: uuid.NewSHA1(n.ID, []byte("filled")), Kind: ledger.TankRead, Data: r})
		return err
	}
	return nil
}

// FillShelf adds a jar like one to every port of its shelf that has none yet, each tied to
// its port, so that it knows its own plant and nothing else. It returns how many there are
// more; done twice it adds them once.
func FillShelf(ctx context.Context, s *store.Store, w who.Who, like uuid.UUID) (added int, err error) {
	if err := w.Must(who.Settings); err != nil {
		return 0, err
	}
	return added, s.InSchool(ctx, w, func(tx *store.Tx) error {
		all, err := TankKind.All(ctx, tx)
		if err != nil {
			return err
		}
		i := slices.IndexFunc(all, func(n TankSetup) bool { return n.ID == like && !n.Retired })
		if i < 0 {
			return field.Refuse("like", "choose a jar")
		}
		one := all[i]
		p, err := GetPlace(ctx, tx, one.Place)
		if err != nil {
			return err
		}
		if p.Kind != "jars" || one.Position == 0 {
			return field.Refuse("like", "is not a jar that belongs to a port of a jar shelf; choose its port first")
		}
		there := map[int]bool{}
		for _, n := range all {
			if n.Place == one.Place && !n.Retired {
				there[n.Position] = true
			}
		}
		base := strings.TrimRight(one.Name, "0123456789 ")
		for port := 1; port <= p.Tiers*p.Columns; port++ {
			if there[port] {
				continue
			}
			jar := one
			jar.Spec.Filled = "" // nobody said so of these
			jar.ID, jar.Position = uuid.NewSHA1(one.ID, []byte(strconv.Itoa(port))), port
			jar.Name = fmt.Sprintf("%s %d", base, port)
			if _, err := TankKind.PutIn(ctx, tx, jar, things.New); err != nil {
				return err
			}
			added++
		}
		return nil
	})
}

// AddPlace, AddTray and AddTank write down what is new.
func AddPlace(ctx context.Context, s *store.Store, w who.Who, p PlaceSetup) error {
	_, err := PlaceKind.Put(ctx, s, w, p, things.New)
	return err
}

// AddTray adds a tray that stands in a place.
func AddTray(ctx context.Context, s *store.Store, w who.Who, t TraySetup) error {
	_, err := TrayKind.Put(ctx, s, w, t, things.New)
	return err
}

// AddTank adds a tank.
func AddTank(ctx context.Context, s *store.Store, w who.Who, n TankSetup) error {
	_, err := TankKind.Put(ctx, s, w, n, things.New)
	return err
}
