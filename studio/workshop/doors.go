package workshop

import (
	"context"
	"crypto/rand"
	"crypto/sha256"
	"encoding/hex"
	"errors"
	"time"

	"fairtangle/core/fault"
	"fairtangle/store"
	"fairtangle/studio/floor"
)

// Doors are through which one comes in from another device: who has signed in, and the programs that may ask.
type Doors struct{ floor *floor.Floor }

// Token is a program that may ask, by the name that it was given.
type Token struct {
	ID   int64
	Name string
	Made time.Time
	Used *time.Time // by the hour; nil: never
}

// mostTokens is how many programs may ask.
const mostTokens = 50

// tokenSign stands before each token, so that one that is lying about is known for what it is.
const tokenSign = "ft-"

// Tokens lists the programs that may ask, the latest first.
func (d Doors) Tokens(ctx context.Context) ([]Token, error) {
	rows, err := d.floor.Store.Tokens(ctx)
	out := make([]Token, len(rows))
	for i, r := range rows {
		out[i] = Token{r.ID, r.Name, r.Made, r.Used}
	}
	return out, err
}

// NewToken lets a program in: the secret is told once, and kept as its hash alone.
func (d Doors) NewToken(ctx context.Context, name string) (secret string, err error) {
	var l fault.List
	floor.CheckText(&l, "name", "the program", &name, floor.MaxFew, true)
	if err := l.Err(); err != nil {
		return "", err
	}
	have, err := d.floor.Store.Tokens(ctx)
	if err != nil {
		return "", err
	}
	if len(have) >= mostTokens {
		return "", fault.New("name", "There are %d programs already. Withdraw one that is not used any more.", mostTokens)
	}
	secret = tokenSign + rand.Text()
	_, err = d.floor.Store.AddToken(ctx, store.Token{Name: name, Hash: hashOf(secret)})
	return secret, err
}

// DropToken withdraws a program's token.
func (d Doors) DropToken(ctx context.Context, id int64) error {
	return d.floor.Store.DropToken(ctx, id)
}

// Admits reports whether a secret lets its program in.
func (d Doors) Admits(ctx context.Context, secret string) (bool, error) {
	_, err := d.floor.Store.TokenOf(ctx, hashOf(secret))
	if errors.Is(err, floor.ErrNotFound) {
		return false, nil
	}
	return err == nil, err
}

func hashOf(secret string) string {
	sum := sha256.Sum256([]byte(secret))
	return hex.EncodeToString(sum[:])
}

// FindCtx returns what a session holds.
func (d Doors) FindCtx(ctx context.Context, token string) (data []byte, found bool, err error) {
	v, err := d.floor.Store.SessionOf(ctx, token)
	if errors.Is(err, floor.ErrNotFound) {
		return nil, false, nil
	}
	return v.Data, err == nil, err
}

// CommitCtx keeps a session until it runs out.
func (d Doors) CommitCtx(ctx context.Context, token string, data []byte, expires time.Time) error {
	return d.floor.Store.KeepSession(ctx, store.Session{Token: token, Data: data, Expires: expires})
}

// DeleteCtx forgets a session.
func (d Doors) DeleteCtx(ctx context.Context, token string) error {
	return d.floor.Store.ForgetSessions(ctx, token)
}

// Find is FindCtx for as long as it takes.
func (d Doors) Find(token string) ([]byte, bool, error) {
	return d.FindCtx(context.Background(), token)
}

// Commit is CommitCtx for as long as it takes.
func (d Doors) Commit(token string, data []byte, expires time.Time) error {
	return d.CommitCtx(context.Background(), token, data, expires)
}

// Delete is DeleteCtx for as long as it takes.
func (d Doors) Delete(token string) error { return d.DeleteCtx(context.Background(), token) }

// SignOutEverywhere forgets all who have signed in.
func (d Doors) SignOutEverywhere(ctx context.Context) error {
	return d.floor.Store.ForgetSessions(ctx, "")
}
