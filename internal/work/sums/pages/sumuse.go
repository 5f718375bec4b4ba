package pages

import (
	"context"

	"ulpa/core/crop"
	"ulpa/internal/base/who"
	"ulpa/internal/doors/face"
	"ulpa/internal/work/batches"
	"ulpa/internal/work/crops"
	"ulpa/internal/work/solution"
)

// useOf says where the answer can be put to use, and what the sum was opened for.
func (s Pages) useOf(ctx context.Context, w who.Who, v *sumView) error {
	kind, id := forID(v.For)
	use := v.Answer.Use
	if why := mayUse(v.Calculator.Name, w); why != "" && use != nil {
		v.MayNot, use = w.Prefs.Say(why), nil
	}
	if use != nil {
		use.Set("units", v.System+"/"+v.Scale)
	}
	switch kind {
	case "tank":
		t, err := solution.Get(ctx, s.Store, w, id)
		if err != nil {
			return err
		}
		v.ForName, v.ForPath = t.Tank.Name, "/tanks/"+id.String()
		if use != nil {
			v.UseSays, v.UsePath = w.Prefs.T("Write it down for %s", t.Tank.Name), v.ForPath+"?"+use.Encode()+"#treat"
		}
		return nil
	case "batch":
		b, err := batches.Get(ctx, s.Store, w, id)
		if err != nil {
			return err
		}
		v.ForName, v.ForPath = b.Code, "/batches/"+id.String()
		if use != nil {
			use.Set("lot", b.LotID.String())
		}
	}
	if name, ok := cropOf(v.For); ok {
		x, _ := crop.Of(name)
		v.ForName, v.ForPath = w.Prefs.Say(x.Name), crops.Path(name)
		if use != nil && v.Calculator.Name == "back-schedule" {
			fresh, err := face.NewID()
			v.PlanID, v.PlanCrop, v.PlanSow, v.PlanReady = fresh, name, use.Get("sow_on"), use.Get("ready_by")
			return err
		}
	}
	if use != nil && v.Calculator.Name == "seed-rate" {
		v.UseSays, v.UsePath = w.Prefs.T("Sow this"), "/sow?"+use.Encode()
	}
	return nil
}

func cropOf(of string) (string, bool) {
	if len(of) < 6 || of[:5] != "crop:" {
		return "", false
	}
	_, ok := crop.Of(of[5:])
	return of[5:], ok
}
