package seasontrial

import (
	"context"
	"net/url"
	"os"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"ulpa/core/sim/play"
)

// beside is the private server that the test command starts.
type beside struct{ owner, app string }

func (b beside) at(address, database string) string {
	u, _ := url.Parse(address)
	u.Path = "/" + database
	return u.String()
}

func (b beside) URL(database string) string { return b.at(b.owner, database) }

func (b beside) AppURL(database string) string {
	u, _ := url.Parse(b.at(b.owner, database))
	u.User = url.UserPassword("ulpa_app", b.app)
	return u.String()
}

func (b beside) Password() string { return b.app }

// Three weeks of a spring are played through the API: nothing goes wrong there, next to nothing is
// refused, what is planned is sown and tanks come into their range; and over HTTP it is the same
// season.
func TestASeasonIsPlayedThroughTheAPI(t *testing.T) {
	pg := beside{os.Getenv("ULPA_TEST_OWNER_URL"), os.Getenv("ULPA_TEST_APP_PASSWORD")}
	require.NotEmpty(t, pg.owner, "run the tests beside a database")
	s := play.Tuned[0]
	s.To = s.From + 18
	var refusals []string
	run := func(overHTTP bool) play.Score {
		trial, err := New(context.Background(), pg, Options{Seed: 3, OverHTTP: overHTTP, Log: func(line string) { refusals = append(refusals, line) }})
		require.NoError(t, err)
		score, err := trial.season(context.Background(), s, 3, nil)
		require.NoError(t, err)
		return score
	}
	score := run(false)
	require.Empty(t, refusals)
	require.Greater(t, score.MinutesFor["sow"], 5.0)
	require.Greater(t, score.MinutesFor["treat"], 10.0)
	require.Less(t, score.OutShare(), 0.6, "all of the first days, and then none")
	require.Less(t, score.MinutesSpent, 45.0*16)
	require.Equal(t, score, run(true))

	var out strings.Builder
	report(&out, "A title", []play.Score{score})
	require.Contains(t, out.String(), "A title (seasons: 1)")
	require.Contains(t, out.String(), "tank days out of range")
}
