package household

import (
	"context"
	"errors"
	"strings"
	"time"

	"github.com/google/uuid"

	"clearjar/core/plant"
	"clearjar/propagation"
	"clearjar/store"
	"clearjar/store/sqlgen"
)

// What the way-in table knows.
const (
	byName = "sign_in_name"
	byCode = "invitation"
)

// How somebody came in.
const (
	byPassphrase = "passphrase"
	byPasskey    = "passkey"
	byInvitation = "invitation"
	byRecovery   = "recovery"
	byDevice     = "device"
	inDemo       = "demo"
)

// RefusedError says that somebody was not let in. It does not say what of it was wrong.
type RefusedError struct{ Reason string }

func (e RefusedError) Error() string { return e.Reason }

var errNotYou = RefusedError{"This name and passphrase do not belong together. Look for capitals and for another keyboard."}

// Passphrase signs somebody in. from is the address the request came from.
func (d *Door) Passphrase(ctx context.Context, name, passphrase, device, from string) (Me, error) {
	known, err := signInName(name)
	if err != nil {
		return Me{}, errNotYou
	}
	if err := errors.Join(d.try(ctx, ofAddress, from), d.try(ctx, ofAccount, known)); err != nil {
		return Me{}, err
	}
	m, own, err := d.named(ctx, known)
	if err != nil {
		return Me{}, err
	}
	same, err := d.matches(ctx, passphrase, m.Passphrase)
	if err != nil {
		return Me{}, err
	}
	if !same {
		return Me{}, errNotYou
	}
	if err := d.forget(ctx, ofAccount, known); err != nil {
		return Me{}, err
	}
	return d.signIn(own, m.ID, device, byPassphrase)
}

// named is the member of a sign-in name, with a context of the household; an empty one when there is none who may come in.
func (d *Door) named(ctx context.Context, name string) (sqlgen.Member, context.Context, error) {
	way, err := d.store.WayInByWord(store.Nobody(ctx), sqlgen.WayInByWordParams{What: byName, Word: name})
	if store.IsMissing(err) {
		return sqlgen.Member{}, ctx, nil
	}
	if err != nil {
		return sqlgen.Member{}, ctx, err
	}
	own := store.As(ctx, way.HouseholdID)
	m, err := d.store.MemberByID(own, way.About)
	if store.IsMissing(err) || (err == nil && m.EndedAt != nil) {
		return sqlgen.Member{}, ctx, nil
	}
	return m, own, err
}

// mostDevice is the longest name of a device, in characters.
const mostDevice = 80

// signIn notes that a member is signed in on a device from now on.
func (d *Door) signIn(own context.Context, member uuid.UUID, device, way string) (Me, error) {
	id, err := uuid.NewV7()
	if err != nil {
		return Me{}, err
	}
	household, err := store.Whose(own)
	if err != nil {
		return Me{}, err
	}
	device = strings.TrimSpace(device)
	if device, err = plant.CleanText("device", device, mostDevice); err != nil {
		return Me{}, err
	}
	if device == "" {
		device = "A device without a name"
	}
	if err := d.store.AddSignIn(store.By(own, member), sqlgen.AddSignInParams{ID: id, MemberID: member, Device: device, Way: way, At: d.now()}); err != nil {
		return Me{}, err
	}
	me, ok, err := d.Who(own, household, member, id)
	if err == nil && !ok {
		err = errNotYou
	}
	return me, err
}

// SignIn is a device on which a member is signed in.
type SignIn struct {
	ID     uuid.UUID `json:"id"`
	Device string    `json:"device"`
	Way    string    `json:"way" enum:"passphrase,passkey,invitation,recovery,device,demo"`
	MadeAt time.Time `json:"made_at"`
	UsedAt time.Time `json:"used_at"`
	// Here says that it is the one that asks.
	Here bool `json:"here"`
}

// SignIns are where a member is signed in, the last used first.
func (d *Door) SignIns(ctx context.Context, me Me) ([]SignIn, error) {
	rows, err := d.store.SignInsOf(ctx, me.MemberID)
	if err != nil {
		return nil, err
	}
	out := []SignIn{}
	for _, r := range rows {
		if d.now().Sub(r.UsedAt) <= idle && d.now().Sub(r.MadeAt) <= Longest {
			out = append(out, SignIn{r.ID, r.Device, r.Way, r.MadeAt, r.UsedAt, r.ID == me.SignInID})
		}
	}
	return out, nil
}

// SignOut ends one log-in of a member: what has its cookie opens nothing any more. Twice is once.
func (d *Door) SignOut(ctx context.Context, me Me, signIn uuid.UUID) error {
	_, err := d.store.EndSignIn(ctx, sqlgen.EndSignInParams{ID: signIn, MemberID: me.MemberID, At: d.now()})
	return err
}

// SignOutElsewhere ends every log-in of a member but the one that asks.
func (d *Door) SignOutElsewhere(ctx context.Context, me Me) error {
	return d.store.EndSignInsOf(ctx, sqlgen.EndSignInsOfParams{MemberID: me.MemberID, But: me.SignInID, At: d.now()})
}

// ChangePassphrase sets a new passphrase; elsewhere the member is signed out. Somebody who has one says the old one.
func (d *Door) ChangePassphrase(ctx context.Context, me Me, old, passphrase string) error {
	m, err := d.store.MemberByID(ctx, me.MemberID)
	if err != nil {
		return missing(err, "This member")
	}
	if m.Passphrase != "" {
		if err := d.try(ctx, ofAccount, m.SignInName); err != nil {
			return err
		}
		same, err := d.matches(ctx, old, m.Passphrase)
		if err != nil {
			return err
		}
		if !same {
			return plant.Refuse("old", "this is not the passphrase you have now")
		}
	}
	hash, err := d.newPassphrase(ctx, "passphrase", passphrase, m.Name, m.SignInName)
	if err != nil {
		return err
	}
	if err := d.forget(ctx, ofAccount, m.SignInName); err != nil {
		return err
	}
	return d.in(ctx, func(q *sqlgen.Queries) error {
		return errors.Join(
			q.SetPassphrase(ctx, sqlgen.SetPassphraseParams{ID: m.ID, Passphrase: hash}),
			q.EndSignInsOf(ctx, sqlgen.EndSignInsOfParams{MemberID: m.ID, But: me.SignInID, At: d.now()}),
		)
	})
}

// HasPassphrase tells whether a member comes in with a passphrase.
func (d *Door) HasPassphrase(ctx context.Context, me Me) (bool, error) {
	m, err := d.store.MemberByID(ctx, me.MemberID)
	return m.Passphrase != "", missing(err, "This member")
}

// recoveryCodes is how many a member gets at a time.
const recoveryCodes = 8

// RecoveryCodes makes new codes, said once; the ones before open nothing any more.
func (d *Door) RecoveryCodes(ctx context.Context, me Me) ([]string, error) {
	codes := make([]string, recoveryCodes)
	err := d.in(ctx, func(q *sqlgen.Queries) error {
		if err := q.RemoveRecoveryCodes(ctx, me.MemberID); err != nil {
			return err
		}
		for i := range codes {
			codes[i] = newCode()
			id, err := uuid.NewV7()
			if err != nil {
				return err
			}
			if err := q.AddRecoveryCode(ctx, sqlgen.AddRecoveryCodeParams{ID: id, MemberID: me.MemberID, Digest: digestOf("recovery", codes[i]), MadeAt: d.now()}); err != nil {
				return err
			}
		}
		return nil
	})
	return codes, err
}

// CodesLeft is how many recovery codes of a member still open.
func (d *Door) CodesLeft(ctx context.Context, me Me) (int, error) {
	n, err := d.store.RecoveryCodesLeft(ctx, me.MemberID)
	return int(n), err
}

var errNoCode = RefusedError{"This name and code do not belong together, or the code was used. Each opens once."}

// Recover signs a member in with a recovery code, which is used up, and a new passphrase; elsewhere they are signed out.
func (d *Door) Recover(ctx context.Context, name, code, passphrase, device, from string) (Me, error) {
	known, err := signInName(name)
	if err != nil {
		return Me{}, errNoCode
	}
	if err := errors.Join(d.try(ctx, ofAddress, from), d.try(ctx, ofRecovery, known)); err != nil {
		return Me{}, err
	}
	hash, err := d.newPassphrase(ctx, "passphrase", passphrase, known)
	if err != nil {
		return Me{}, err
	}
	m, own, err := d.named(ctx, known)
	if err != nil {
		return Me{}, err
	}
	if m.ID == uuid.Nil {
		return Me{}, errNoCode
	}
	err = d.in(own, func(q *sqlgen.Queries) error {
		n, err := q.UseRecoveryCode(own, sqlgen.UseRecoveryCodeParams{MemberID: m.ID, Digest: digestOf("recovery", code), Now: d.now()})
		if err != nil {
			return err
		}
		if n == 0 {
			return errNoCode
		}
		return errors.Join(
			q.SetPassphrase(own, sqlgen.SetPassphraseParams{ID: m.ID, Passphrase: hash}),
			q.EndSignInsOf(own, sqlgen.EndSignInsOfParams{MemberID: m.ID, But: uuid.Nil, At: d.now()}),
		)
	})
	if err != nil {
		return Me{}, err
	}
	if err := errors.Join(d.forget(ctx, ofAccount, known), d.forget(ctx, ofRecovery, known)); err != nil {
		return Me{}, err
	}
	return d.signIn(own, m.ID, device, byRecovery)
}

// demoName is the sign-in name of the keeper of the demo's household.
const demoName = "demo"

// Demo signs in to a household as its demo keeper, who has no passphrase and is made on the first time.
func (d *Door) Demo(ctx context.Context, household uuid.UUID, device string) (Me, error) {
	m, own, err := d.named(ctx, demoName)
	if err != nil {
		return Me{}, err
	}
	if m.ID == uuid.Nil {
		own = store.As(ctx, household)
		if m.ID, err = d.add(own, newMember{Name: "Demo keeper", SignInName: demoName, Role: Keeper}); err != nil {
			// Two that come at once make one.
			var conflict propagation.ConflictError
			if !errors.As(err, &conflict) {
				return Me{}, err
			}
			if m, own, err = d.named(ctx, demoName); err != nil {
				return Me{}, err
			}
		}
	}
	return d.signIn(own, m.ID, device, inDemo)
}
