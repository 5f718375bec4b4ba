package face

import (
	"math"
	"net/http"
	"net/http/httptest"
	"strings"
	"testing"
	"unicode/utf8"

	"github.com/gin-gonic/gin"
	"github.com/google/uuid"
	"github.com/stretchr/testify/require"

	"ulpa/core/say"
	"ulpa/core/unit"
)

// Whatever is posted: a figure is a figure or refused beside its field, and what
// was typed stands there still, fit for a page and for the database.
func FuzzForm(f *testing.F) {
	f.Add("ph=6.4&units=us/ppm500&level=1,5&id=" + uuid.NewString())
	f.Add("ph=1e309&level=0x1p-2&n=99999999999&t=%00%ff&units=/")
	f.Add("a=NaN&a=2&%=;&b=-9223372036854775808")
	f.Fuzz(func(t *testing.T, body string) {
		c := &gin.Context{Request: httptest.NewRequest(http.MethodPost, "/", strings.NewReader(body))}
		c.Request.Header.Set("Content-Type", "application/x-www-form-urlencoded")
		all := ReadForm(c, say.Reader{})
		for name, typed := range all.Values {
			for _, s := range typed {
				require.True(t, utf8.ValidString(s) && !strings.Contains(s, "\x00"), "%q", s)
			}
			for _, u := range []string{"", unit.MS, unit.Celsius, unit.Litre, unit.Gram} {
				g := &Form{Values: all.Values, Errors: map[string]string{}, Prefs: all.Prefs}
				v := g.Number(name, u)
				require.Equal(t, v == nil, g.Text(name) == "" || g.Error(name) != "", "%q", typed)
				require.False(t, v != nil && (math.IsNaN(*v) || math.IsInf(*v, 0)), "%q in %s", typed, u)
			}
			g := &Form{Values: all.Values, Errors: map[string]string{}}
			if n := g.Int(name, 7); g.Error(name) == "" && g.Text(name) != "" {
				require.True(t, n >= math.MinInt32 && n <= math.MaxInt32, "%q", typed)
			}
		}
	})
}
