package seasontrial

import (
	"bytes"
	"encoding/json"
	"fmt"
	"io"
	"net/http"

	"github.com/google/uuid"

	"ulpa/internal/doors/demo"
)

// asker is a program with a key.
type asker struct {
	trip http.RoundTripper
	base string
}

// refused is what Ulpa did not take.
type refused struct {
	method, path string
	status       int
	body         string
}

// Error says what, and why.
func (r refused) Error() string {
	return fmt.Sprint(r.method, " ", r.path, ": ", r.status, " ", r.body)
}

// do asks, and reads the answer.
func (a asker) do(method, path string, in, out any) error {
	var body bytes.Buffer
	if in != nil {
		if err := json.NewEncoder(&body).Encode(in); err != nil {
			return err
		}
	}
	r, err := http.NewRequest(method, a.base+"/api/v1"+path, &body)
	if err != nil {
		return err
	}
	r.Header.Set("Authorization", "Bearer "+demo.Key)
	if method == http.MethodPut {
		r.Header.Set("If-None-Match", "*")
	}
	res, err := a.trip.RoundTrip(r)
	if err != nil {
		return err
	}
	defer res.Body.Close()
	text, err := io.ReadAll(res.Body)
	if err != nil {
		return err
	}
	if res.StatusCode >= http.StatusBadRequest {
		return refused{method, path, res.StatusCode, string(text)}
	}
	if out == nil || len(text) == 0 {
		return nil
	}
	return json.Unmarshal(text, out)
}

func (a asker) get(path string, out any) error { return a.do(http.MethodGet, path, nil, out) }
func (a asker) post(path string, in, out any) error {
	return a.do(http.MethodPost, path, in, out)
}

// idOf is the id of something of the school by its name.
func idOf(name ...any) string {
	return uuid.NewSHA1(uuid.NameSpaceOID, fmt.Append(nil, name...)).String()
}

// some is a JSON object.
type some map[string]any
