package household

import (
	"context"
	"encoding/json"
	"errors"
	"log/slog"
	"net"
	"time"

	"github.com/go-webauthn/webauthn/protocol"
	"github.com/go-webauthn/webauthn/webauthn"
	"github.com/google/uuid"

	"clearjar/core/plant"
	"clearjar/propagation"
	"clearjar/store"
	"clearjar/store/sqlgen"
)

// Passkey is a key that a device, or a little thing at its port, keeps for a member.
type Passkey struct {
	ID     uuid.UUID  `json:"id"`
	Name   string     `json:"name"`
	MadeAt time.Time  `json:"made_at"`
	UsedAt *time.Time `json:"used_at,omitempty"`
}

// mostPasskeys of a member.
const mostPasskeys = 20

// Site is the address under which Clear Jar was opened: a passkey belongs to its host name.
type Site struct {
	// Host without a port, and Origin with scheme and port.
	Host, Origin string
}

// ErrNoName says that there is no host name to keep a passkey for.
var ErrNoName = propagation.ConflictError{Reason: "A passkey belongs to a name, and this page was opened by a number. Open Clear Jar by its name, such as localhost or clearjar.local, and try again."}

// Named tells whether the page was opened by a name, and not by a number.
func (s Site) Named() bool { return s.Host != "" && net.ParseIP(s.Host) == nil }

func (s Site) keys() (*webauthn.WebAuthn, error) {
	if !s.Named() {
		return nil, ErrNoName
	}
	return webauthn.New(&webauthn.Config{RPID: s.Host, RPDisplayName: "Clear Jar", RPOrigins: []string{s.Origin}})
}

// holder is a member as the passkey library sees one. The handle says whose it is: household, then member.
type holder struct {
	household uuid.UUID
	member    sqlgen.Member
	keys      []webauthn.Credential
}

func (h holder) WebAuthnID() []byte                         { return append(h.household[:], h.member.ID[:]...) }
func (h holder) WebAuthnName() string                       { return h.member.SignInName }
func (h holder) WebAuthnDisplayName() string                { return h.member.Name }
func (h holder) WebAuthnCredentials() []webauthn.Credential { return h.keys }

// holderOf loads a member with their passkeys.
func (d *Door) holderOf(ctx context.Context, member uuid.UUID) (holder, []sqlgen.Passkey, error) {
	household, err := store.Whose(ctx)
	if err != nil {
		return holder{}, nil, err
	}
	m, err := d.store.MemberByID(ctx, member)
	if err == nil && m.EndedAt != nil {
		err = store.ErrMissing
	}
	if err != nil {
		return holder{}, nil, missing(err, "This member")
	}
	rows, err := d.store.PasskeysOf(ctx, member)
	if err != nil {
		return holder{}, nil, err
	}
	h := holder{household: household, member: m}
	for _, r := range rows {
		var c webauthn.Credential
		if err := json.Unmarshal(r.Kept, &c); err != nil {
			return holder{}, nil, err
		}
		h.keys = append(h.keys, c)
	}
	return h, rows, nil
}

// Ceremony is a question to a passkey that is still open. It is kept at the server, with the log-in.
type Ceremony = webauthn.SessionData

// AskForPasskey asks a device to make a passkey for a member.
func (d *Door) AskForPasskey(ctx context.Context, me Me, at Site) (*protocol.CredentialCreation, *Ceremony, error) {
	keys, err := at.keys()
	if err != nil {
		return nil, nil, err
	}
	h, rows, err := d.holderOf(ctx, me.MemberID)
	if err != nil {
		return nil, nil, err
	}
	if len(rows) >= mostPasskeys {
		return nil, nil, plant.Refuse("name", "at most %d passkeys: remove one first", mostPasskeys)
	}
	return keys.BeginRegistration(h,
		webauthn.WithResidentKeyRequirement(protocol.ResidentKeyRequirementRequired),
		webauthn.WithAuthenticatorSelection(protocol.AuthenticatorSelection{ResidentKey: protocol.ResidentKeyRequirementRequired, UserVerification: protocol.VerificationRequired}),
		webauthn.WithExclusions(webauthn.Credentials(h.keys).CredentialDescriptors()))
}

// errNoPasskey is said when a passkey does not open; why is in the log.
var errNoPasskey = RefusedError{"This passkey did not open. Try again, or come in with your passphrase."}

func refusedKey(err error) error {
	slog.Info("a passkey was refused", "why", err)
	return errNoPasskey
}

// KeepPasskey keeps the passkey that a device made.
func (d *Door) KeepPasskey(ctx context.Context, me Me, at Site, asked Ceremony, answer json.RawMessage, name string) error {
	keys, err := at.keys()
	if err != nil {
		return err
	}
	if name, err = plant.CleanText("name", name, mostDevice); err != nil {
		return err
	}
	h, _, err := d.holderOf(ctx, me.MemberID)
	if err != nil {
		return err
	}
	said, err := protocol.ParseCredentialCreationResponseBytes(answer)
	if err != nil {
		return refusedKey(err)
	}
	c, err := keys.CreateCredential(h, asked, said)
	if err != nil {
		return refusedKey(err)
	}
	kept, err := json.Marshal(c)
	if err != nil {
		return err
	}
	id, err := uuid.NewV7()
	if err != nil {
		return err
	}
	return d.store.AddPasskey(ctx, sqlgen.AddPasskeyParams{ID: id, MemberID: me.MemberID, Credential: c.ID, Kept: kept, Name: name, MadeAt: d.now()})
}

// Passkeys of a member, the oldest first.
func (d *Door) Passkeys(ctx context.Context, me Me) ([]Passkey, error) {
	rows, err := d.store.PasskeysOf(ctx, me.MemberID)
	if err != nil {
		return nil, err
	}
	out := make([]Passkey, len(rows))
	for i, r := range rows {
		out[i] = Passkey{r.ID, r.Name, r.MadeAt, r.UsedAt}
	}
	return out, nil
}

// RemovePasskey ends a passkey: it opens nothing any more.
func (d *Door) RemovePasskey(ctx context.Context, me Me, id uuid.UUID) error {
	_, err := d.store.EndPasskey(ctx, sqlgen.EndPasskeyParams{ID: id, MemberID: me.MemberID, At: d.now()})
	return err
}

// AskPasskey asks any passkey that is at hand who is there.
func (d *Door) AskPasskey(ctx context.Context, at Site, from string) (*protocol.CredentialAssertion, *Ceremony, error) {
	if err := d.try(ctx, ofAddress, from); err != nil {
		return nil, nil, err
	}
	keys, err := at.keys()
	if err != nil {
		return nil, nil, err
	}
	return keys.BeginDiscoverableLogin(webauthn.WithUserVerification(protocol.VerificationRequired))
}

// Passkey signs in whoever the passkey says is there.
func (d *Door) Passkey(ctx context.Context, at Site, asked Ceremony, answer json.RawMessage, device string) (Me, error) {
	keys, err := at.keys()
	if err != nil {
		return Me{}, err
	}
	said, err := protocol.ParseCredentialRequestResponseBytes(answer)
	if err != nil {
		return Me{}, refusedKey(err)
	}
	var own context.Context
	var who holder
	var rows []sqlgen.Passkey
	var lost error
	c, err := keys.ValidateDiscoverableLogin(func(_, handle []byte) (webauthn.User, error) {
		if len(handle) != 2*len(uuid.UUID{}) {
			return nil, errNoPasskey
		}
		own = store.As(ctx, uuid.UUID(handle[:16]))
		var err error
		who, rows, err = d.holderOf(own, uuid.UUID(handle[16:]))
		if store.IsLost(err) {
			lost = err
		}
		return who, err
	}, asked, said)
	if err != nil {
		return Me{}, errors.Join(lost, refusedKey(err))
	}
	if c.Authenticator.CloneWarning {
		return Me{}, refusedKey(errors.New("its counter went back: a copy of it may be about"))
	}
	kept, err := json.Marshal(c)
	if err != nil {
		return Me{}, err
	}
	for _, r := range rows {
		if string(r.Credential) == string(c.ID) {
			if err := d.store.PasskeyUsed(own, sqlgen.PasskeyUsedParams{ID: r.ID, At: d.now(), Kept: kept}); err != nil {
				return Me{}, err
			}
		}
	}
	return d.signIn(own, who.member.ID, device, byPasskey)
}
