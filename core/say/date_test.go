package say_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"ulpa/core/say"
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
