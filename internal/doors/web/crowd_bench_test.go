package web_test

import (
	"bytes"
	"context"
	"fmt"
	"image"
	"image/jpeg"
	"math/rand/v2"
	"net/http"
	"slices"
	"sync"
	"sync/atomic"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"

	"ulpa/internal/base/who"
	"ulpa/internal/doors/demo"
)

// BenchmarkPagesInACrowd measures what people of one school wait for their pages while fifty
// tablets of another send photographs, as large as tablets take them, as fast as they are taken.
func BenchmarkPagesInACrowd(b *testing.B) {
	h := newHouse(b)
	far := h.School(b, "far")
	var tablets []browser
	for n := range 50 {
		called := fmt.Sprintf("hand%d", n)
		h.Person(b, far, who.Staff, called)
		tablets = append(tablets, h.adult(b, demo.Person{Login: called + "@" + far.String()[30:] + ".example", Secret: "long enough a secret"}))
	}
	photo := image.NewRGBA(image.Rect(0, 0, 2000, 1500))
	for i := range photo.Pix {
		photo.Pix[i] = byte(i/3000) ^ byte(rand.IntN(24)) // #nosec G404 -- a picture with something in it
	}
	var file bytes.Buffer
	require.NoError(b, jpeg.Encode(&file, photo, &jpeg.Options{Quality: 85}))
	people := []browser{}
	for range 20 {
		people = append(people, h.adult(b, demo.People[0]))
	}
	paths := []string{"/", "/nursery", "/trays", "/tanks", "/notebook", "/places", "/harvest", "/seeds"}
	for _, p := range people { // who have been at work for a while
		for _, path := range paths {
			_, _ = p.get(path)
		}
	}
	for b.Loop() {
		ctx, done := context.WithTimeout(b.Context(), 15*time.Second)
		var all sync.WaitGroup
		var kept, turned atomic.Int64
		for _, t := range tablets {
			all.Go(func() {
				for ctx.Err() == nil {
					res, _ := t.sendFile("/pictures", "x.jpg", file.Bytes(), "id", uuid.NewString())
					if res.StatusCode == http.StatusSeeOther {
						kept.Add(1)
						continue
					}
					turned.Add(1)
					select { // as it is told
					case <-time.After(2 * time.Second):
					case <-ctx.Done():
					}
				}
			})
		}
		var mu sync.Mutex
		var waited []time.Duration
		for n, p := range people {
			all.Go(func() {
				time.Sleep(time.Duration(n) * 20 * time.Millisecond)
				for i := n; ctx.Err() == nil; i++ {
					begun := time.Now()
					res, _ := p.get(paths[i%len(paths)])
					took := time.Since(begun)
					mu.Lock()
					waited = append(waited, took)
					mu.Unlock()
					if res.StatusCode != http.StatusOK {
						b.Error(res.Status)
					}
					time.Sleep(time.Duration(200+rand.IntN(400)) * time.Millisecond) // they read; #nosec G404
				}
			})
		}
		all.Wait()
		done()
		slices.Sort(waited)
		at := func(share float64) float64 {
			return float64(waited[int(share*float64(len(waited)-1))].Microseconds()) / 1000
		}
		b.ReportMetric(at(0.5), "ms/median")
		b.ReportMetric(at(0.99), "ms/p99")
		b.ReportMetric(float64(kept.Load())/15, "pictures/s")
		b.ReportMetric(float64(turned.Load()), "turned-away")
		b.ReportMetric(float64(len(waited))/15, "pages/s")
	}
}
