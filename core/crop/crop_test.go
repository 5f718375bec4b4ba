package crop_test

import (
	"regexp"
	"testing"

	"github.com/stretchr/testify/require"

	"ulpa/core/crop"
	"ulpa/core/seed"
)

// Every crop's figures lie in the range of the possible and agree with each other.
func TestTheCatalogueMakesSense(t *testing.T) {
	all := crop.All()
	require.GreaterOrEqual(t, len(all), 20)
	letters := map[string]string{}
	for _, c := range all {
		t.Run(c.ID, func(t *testing.T) {
			require.Regexp(t, regexp.MustCompile(`^[A-Z]{3}$`), c.Letters)
			require.Empty(t, letters[c.Letters], "two crops with one code")
			letters[c.Letters] = c.ID
			found, ok := crop.Find(c.ID)
			require.True(t, ok)
			require.Equal(t, c, found)
			g, err := seed.GerminationTime(c.GerminateAs, 20)
			require.NoError(t, err)
			require.True(t, g.Germinates, "nothing germinates at 20 °C")
			require.Less(t, g.BaseC, g.OptimumC)
			require.Less(t, g.OptimumC, g.CeilingC)
			require.True(t, c.Survival > 0.5 && c.Survival <= 1)
			require.True(t, c.SeedsCell >= 1 && c.SeedsCell <= 10)
			require.True(t, c.NurseryDays > int(g.DaysToHalf) && c.HarvestDays > c.NurseryDays)
			require.True(t, c.Ready.Leaves > 0 || c.Ready.AgeDays > 0)
			require.LessOrEqual(t, c.Ready.AgeDays, c.NurseryDays+3)
			require.True(t, c.PHLow >= 5 && c.PHLow < c.PHHigh && c.PHHigh <= 7.5)
			require.True(t, c.ECLow > 0.5 && c.ECLow < c.ECHigh && c.ECHigh <= 3.5)
			switch c.Tender {
			case crop.TenderCrop:
				require.Positive(t, c.SafeC)
			case crop.Hardy:
				require.Negative(t, c.SafeC)
			case crop.HalfHardy:
				require.InDelta(t, -1, c.SafeC, 1)
			default:
				t.Fatal(c.Tender)
			}
			if c.Family == "nightshade" {
				require.Contains(t, c.Hazard, "not food")
			}
		})
	}
	_, ok := crop.Find("tumbleweed")
	require.False(t, ok)
}
