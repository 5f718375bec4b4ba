package api_test

import (
	"bytes"
	"encoding/json"
	"io"
	"net/http"
	"net/http/httptest"
	"runtime"
	"testing"

	"github.com/gin-gonic/gin"

	"ulpa/core/calc"
)

// Requests a second and core over a real connection on loopback, the client's
// own work included; the floor reads the same JSON and sends it back.
func BenchmarkServed(b *testing.B) {
	g := router()
	g.POST("/floor", func(c *gin.Context) {
		var v any
		_ = json.NewDecoder(c.Request.Body).Decode(&v)
		c.JSON(http.StatusOK, v)
	})
	s := httptest.NewServer(g)
	defer s.Close()
	client := &http.Client{Transport: &http.Transport{MaxIdleConnsPerHost: 4 * runtime.GOMAXPROCS(0)}}
	ask := func(b *testing.B, path, body string) {
		b.RunParallel(func(pb *testing.PB) {
			for pb.Next() {
				res, err := client.Post(s.URL+path, "application/json", bytes.NewReader([]byte(body)))
				if err != nil {
					b.Error(err)
					return
				}
				_, _ = io.Copy(io.Discard, res.Body)
				if res.Body.Close(); res.StatusCode != http.StatusOK {
					b.Error(res.Status)
					return
				}
			}
		})
		b.ReportMetric(float64(b.N)/b.Elapsed().Seconds()/float64(runtime.GOMAXPROCS(0)), "req/s/core")
	}
	b.Run("floor", func(b *testing.B) { ask(b, "/floor", calc.All[0].Example) })
	for _, k := range calc.All {
		b.Run(k.Name, func(b *testing.B) { ask(b, "/api/v1/calc/"+k.Name, k.Example) })
	}
}
