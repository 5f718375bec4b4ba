package web_test

import (
	"bufio"
	"io"
	"log/slog"
	"net"
	"net/http"
	"net/http/httptest"
	"regexp"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"ulpa/internal/base/mail"
	"ulpa/internal/doors/demo"
	"ulpa/internal/doors/face"
	"ulpa/internal/doors/web"
	"ulpa/internal/tests/testdb"
)

// postbox is a mail server that takes every letter (RFC 5321), and gives it to the test.
func postbox(t *testing.T) (address string, letters <-chan string) {
	l, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	t.Cleanup(func() { _ = l.Close() })
	box := make(chan string, 9)
	go func() {
		for {
			c, err := l.Accept()
			if err != nil {
				return
			}
			go serveLetters(c, box)
		}
	}()
	return l.Addr().String(), box
}

func serveLetters(c net.Conn, box chan<- string) {
	defer c.Close()
	in := bufio.NewScanner(c)
	say := func(s string) { _, _ = io.WriteString(c, s+"\r\n") }
	say("220 postbox")
	for in.Scan() {
		switch word, _, _ := strings.Cut(strings.ToUpper(in.Text()), " "); word {
		case "DATA":
			say("354 go on")
			var letter strings.Builder
			for in.Scan() && in.Text() != "." {
				letter.WriteString(in.Text() + "\n")
			}
			box <- letter.String()
			say("250 taken")
		case "QUIT":
			say("221 good bye")
			return
		default:
			say("250 postbox")
		}
	}
}

// A forgotten password comes back by a link in a letter; the answer tells nobody who is here.
func TestALetterLeadsBack(t *testing.T) {
	t.Parallel()
	d := testdb.Demo(t)
	address, box := postbox(t)
	sender, err := mail.New("smtp://"+address, "ulpa@ferrywharf.example")
	require.NoError(t, err)
	f, err := web.New(face.Config{
		Store: d.Store, Log: slog.New(slog.NewTextHandler(io.Discard, nil)), Letters: sender, Address: "https://ulpa.ferrywharf.example",
	})
	require.NoError(t, err)
	server := httptest.NewServer(f)
	t.Cleanup(server.Close)
	h := house{DB: d, server: server}
	b := h.browser(t)
	_, page := b.get("/sign-in/code")
	ask := served(t, page, "/sign-in/forgotten")
	res, nobody := b.send(ask.fill("The address you sign in with", "nobody@ferrywharf.example"))
	require.Equal(t, http.StatusOK, res.StatusCode)
	res, somebody := b.send(ask.fill("The address you sign in with", demo.People[1].Login))
	require.Equal(t, http.StatusOK, res.StatusCode)
	require.Equal(t, strings.ReplaceAll(nobody, "nobody@ferrywharf.example", ""), strings.ReplaceAll(somebody, demo.People[1].Login, ""))
	var letter string
	select {
	case letter = <-box:
	case <-time.After(10 * time.Second):
		t.Fatal("no letter came")
	}
	require.Contains(t, letter, "To: <"+demo.People[1].Login+">")
	link := regexp.MustCompile(`https://ulpa\.ferrywharf\.example(/sign-in/code\?code=3D|/sign-in/code\?code=)([A-Z0-9-]{14})`).FindStringSubmatch(letter)
	require.NotNil(t, link, letter)
	_, page = b.get("/sign-in/code?code=" + link[2])
	res, page = b.send(served(t, page, "/sign-in/code").fill("Your new password", "kelp marrow trestle"))
	require.Equal(t, "/", res.Header.Get("Location"), said(page))
	require.Empty(t, box, "nobody else got one")
}
