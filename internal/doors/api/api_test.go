package api_test

import (
	"encoding/json"
	"net/http"
	"net/http/httptest"
	"strings"
	"testing"

	"github.com/gin-gonic/gin"
	"github.com/stretchr/testify/require"

	"ulpa/core/calc"
	"ulpa/internal/doors/api"
)

func post(t testing.TB, g http.Handler, path, body string) *httptest.ResponseRecorder {
	w := httptest.NewRecorder()
	g.ServeHTTP(w, httptest.NewRequest(http.MethodPost, path, strings.NewReader(body)))
	return w
}

func router() *gin.Engine {
	gin.SetMode(gin.ReleaseMode)
	g := gin.New()
	api.Routes(g, api.School{})
	return g
}

func TestTheAPIAnswersAsTheCoreDoes(t *testing.T) {
	g := router()
	for _, k := range calc.All {
		w := post(t, g, "/api/v1/calc/"+k.Name, k.Example)
		require.Equal(t, http.StatusOK, w.Code)
		want, err := k.RunJSON([]byte(k.Example))
		require.NoError(t, err)
		require.JSONEq(t, string(want), w.Body.String())
	}
	w := post(t, g, "/api/v1/calc/emergence", `{"sown": 5, "counts": [{"day": 1, "sprouted": 9}]}`)
	require.Equal(t, http.StatusUnprocessableEntity, w.Code)
	require.Equal(t, "application/problem+json", w.Header().Get("Content-Type"))
	var p struct {
		Errors []struct{ Field, Message string }
	}
	require.NoError(t, json.Unmarshal(w.Body.Bytes(), &p))
	require.Equal(t, "counts.0.sprouted", p.Errors[0].Field)
	require.Equal(t, http.StatusNotFound, post(t, g, "/api/v1/calc/tea-leaves", "{}").Code)
}

func TestTheDescriptionNamesEveryField(t *testing.T) {
	w := httptest.NewRecorder()
	router().ServeHTTP(w, httptest.NewRequest(http.MethodGet, "/api/v1/openapi.json", nil))
	var d struct {
		OpenAPI string
		Paths   map[string]map[string]struct {
			RequestBody struct {
				Content map[string]struct {
					Schema struct{ Properties map[string]any }
				}
			}
		}
	}
	require.NoError(t, json.Unmarshal(w.Body.Bytes(), &d))
	require.Equal(t, "3.1.0", d.OpenAPI)
	require.Greater(t, len(d.Paths), len(calc.All))
	for _, k := range calc.All {
		props := d.Paths["/api/v1/calc/"+k.Name]["post"].RequestBody.Content["application/json"].Schema.Properties
		require.Len(t, props, len(k.Fields), k.Name)
	}
}
