package view

import (
	"github.com/google/uuid"

	"ulpa/core/batch"
	"ulpa/core/calendar"
	"ulpa/core/say"
	"ulpa/core/sprout"
	"ulpa/internal/work/batches"
)

// BatchLine is a batch in a list.
type BatchLine struct {
	Code, Path, Crop, Variety, Where, Purpose string
	Says, Mark                                string
	Count                                     string
}

// LineOf says a batch in a list.
func LineOf(l *batches.Line, today calendar.Day, names map[uuid.UUID]string, p say.Reader) BatchLine {
	b := BatchLine{Code: l.Code, Path: "/batches/" + l.ID.String(), Crop: p.Say(l.Crop.Name), Variety: l.Variety, Purpose: l.Purpose}
	for i, x := range l.Where {
		if i > 0 {
			b.Where += ", "
		}
		b.Where += names[x.Place]
	}
	var says say.Text
	switch {
	case l.Care != nil:
		says, b.Mark = say.T("day %d of about %d", today-l.Sown, sprout.WayOf(l.Crop).CutDay), "none"
	case !l.Raising():
		says, b.Mark = say.T("%d growing", l.InPorts()+l.InStands()), "none"
	case l.State.Start == batch.Struck && l.State.Sprouted == 0:
		says, b.Mark = say.T("cuttings taken %s", l.Sown.Short()), "none"
	case l.State.Sprouted == 0:
		says, b.Mark = say.T("sown %s", l.Sown.Short()), "none"
	default:
		says, b.Mark = RaisedWords(l.Crop, l.Sown, today, l.Verdict)
	}
	b.Says, b.Count = p.Say(says), p.T("%d of %d", l.State.Sprouted, l.State.Sown)
	return b
}
