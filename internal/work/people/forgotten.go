package people

import (
	"context"
	"errors"
	"strings"
	"time"

	"ulpa/core/say"
	"ulpa/internal/base/store"
	"ulpa/internal/base/who"
)

// Letters sends a letter of plain text.
type Letters interface {
	Send(ctx context.Context, to, subject, text string) error
}

// Forgotten sends whoever has that login, when it is an e-mail address, a link by which they
// come in again. Nobody learns from the answer whether there is such a login; asking is
// counted like a wrong password. failed is told of a letter that could not be sent.
func Forgotten(ctx context.Context, s *store.Store, l Letters, from From, login, base string, failed func(error)) error {
	login = strings.ToLower(strings.TrimSpace(login))
	asker := store.Asker{Login: "letter to " + login, Address: from.Address}
	asked, err := s.SignInTry(ctx, asker)
	if err != nil {
		return err
	}
	if asked.Wait > 0 {
		return TooSoon{asked.Wait}
	}
	if err := s.SignInFailed(ctx, asker); err != nil {
		return err
	}
	school, person, err := s.PersonByLogin(ctx, login)
	if errors.Is(err, store.ErrNotFound) || err == nil && !strings.Contains(login, "@") {
		return nil
	} else if err != nil {
		return err
	}
	w, err := Load(ctx, s, who.Who{School: school, Person: person})
	if err != nil {
		return err
	}
	code, err := WayBack(ctx, s, who.Who{School: school, Kind: who.Coordinator, Zone: time.UTC}, person)
	if err != nil {
		return err
	}
	text := w.Prefs.T(
		"Somebody asked for a way to sign in to Ulpa at %s in your name. If it was you, open this within a day and choose a new password:", say.Name(w.SchoolName),
	) + "\n\n" + base + "/sign-in/code?code=" + code + "\n\n" + w.Prefs.T("If it was not you, do nothing: your password stays as it is.") + "\n"
	// The letter goes by itself: how long the mail server takes tells nobody who is here.
	go func() {
		ctx, done := context.WithTimeout(context.WithoutCancel(ctx), 30*time.Second)
		defer done()
		if err := l.Send(ctx, login, w.Prefs.T("Sign in again"), text); err != nil {
			failed(err)
		}
	}()
	return nil
}
