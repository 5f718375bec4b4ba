package say_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"ulpa/core/say"
	"ulpa/core/unit"
)

// A date of another year than the reader's says its own; one without a day has none to say.
func TestADateOfAnotherYearSaysIt(t *testing.T) {
	day := time.Date(2026, 12, 31, 0, 0, 0, 0, time.UTC)
	for layout, want := range map[string]string{
		"Mon 2 Jan": "Thu 31 Dec 2026", "2 January": "31 December 2026", "2 Jan 2006": "31 Dec 2026", "Monday": "Thursday",
	} {
		require.Equal(t, want, say.Reader{Year: 2027}.Say(say.Date(day, layout)))
	}
	require.Equal(t, "Thu 31 Dec", say.Reader{Year: 2026}.Say(say.Date(day, "Mon 2 Jan")))
	require.Equal(t, "Thu 31 Dec", say.Date(day, "Mon 2 Jan").String(), "who reads without a year is told none")
}

// No figure that people read has an exponent.
func TestFiguresAreWrittenOut(t *testing.T) {
	for want, text := range map[string]say.Text{
		"110 mg/L": say.T("%.2g mg/L", 110.0), "1230": say.T("%.3g", 1234.0), "about 0.00012": say.T("about %.2g", 0.000123), "1e+20": say.T("%.2g", 1e20),
		"0.0000474 g": say.Of(0.00004741, unit.Gram), "1.1e-15 bits": say.Of(1.1e-15, "bits"),
	} {
		require.Equal(t, want, text.String())
	}
}
