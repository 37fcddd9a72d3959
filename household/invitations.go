package household

import (
	"context"
	"errors"
	"time"

	"github.com/google/uuid"

	"clearjar/core/plant"
	"clearjar/propagation"
	"clearjar/store"
	"clearjar/store/sqlgen"
)

// Purpose is what an invitation is for.
type Purpose string

// The purposes.
const (
	ForMember Purpose = "member"
	ForDevice Purpose = "device"
	ForAgain  Purpose = "again"
)

// holds is how long an invitation opens, by its purpose. assumption: a person is asked within the week, a device
// stands beside the screen.
var holds = map[Purpose]time.Duration{ForMember: 7 * 24 * time.Hour, ForDevice: 10 * time.Minute, ForAgain: 24 * time.Hour}

// Invitation lets somebody in once.
type Invitation struct {
	ID      uuid.UUID `json:"id"`
	Purpose Purpose   `json:"purpose" enum:"member,device,again"`
	Role    RoleKey   `json:"role,omitempty"`
	// Name is whom it is for.
	Name      string     `json:"name"`
	MemberID  *uuid.UUID `json:"member_id,omitempty"`
	MadeAt    time.Time  `json:"made_at"`
	ExpiresAt time.Time  `json:"expires_at"`
}

// MadeInvitation is a new invitation with its code, which is said once.
type MadeInvitation struct {
	Invitation
	Code string `json:"code"`
}

func invitationOf(r sqlgen.Invitation) Invitation {
	return Invitation{r.ID, Purpose(r.Purpose), RoleKey(r.Role), r.Name, r.MemberID, r.MadeAt, r.ExpiresAt}
}

// mostInvitations that are open at a time.
const mostInvitations = 100

// Invite makes an invitation for a new member of a role.
func (d *Door) Invite(ctx context.Context, by uuid.UUID, name string, role RoleKey) (MadeInvitation, error) {
	name, err := cleanName("name", name, mostName)
	if err != nil {
		return MadeInvitation{}, err
	}
	if len(role.Row().Rights) == 0 {
		return MadeInvitation{}, plant.Refuse("role", "is none that there is")
	}
	all, err := d.Invitations(ctx)
	if err != nil {
		return MadeInvitation{}, err
	}
	if len(all) >= mostInvitations {
		return MadeInvitation{}, plant.Refuse("name", "%d invitations are open: revoke one first", mostInvitations)
	}
	return d.invite(ctx, by, Invitation{Purpose: ForMember, Role: role, Name: name})
}

// LetIn makes a code that lets a member in on another device, within minutes.
func (d *Door) LetIn(ctx context.Context, me Me) (MadeInvitation, error) {
	return d.invite(ctx, me.MemberID, Invitation{Purpose: ForDevice, Name: me.Name, MemberID: &me.MemberID})
}

// LetInAgain makes a code with which a member who lost the way in sets a new passphrase.
func (d *Door) LetInAgain(ctx context.Context, by, member uuid.UUID) (MadeInvitation, error) {
	m, err := d.store.MemberByID(ctx, member)
	if err == nil && m.EndedAt != nil {
		err = store.ErrMissing
	}
	if err != nil {
		return MadeInvitation{}, missing(err, "This member")
	}
	return d.invite(ctx, by, Invitation{Purpose: ForAgain, Name: m.Name, MemberID: &m.ID})
}

// First makes the code with which the first keeper of a household comes in; an earlier one opens nothing any more.
func (d *Door) First(ctx context.Context) (MadeInvitation, error) {
	if err := d.store.EndFirstCodes(ctx, d.now()); err != nil {
		return MadeInvitation{}, err
	}
	return d.invite(ctx, uuid.Nil, Invitation{Purpose: ForMember, Role: Keeper})
}

func (d *Door) invite(ctx context.Context, by uuid.UUID, i Invitation) (MadeInvitation, error) {
	household, err := store.Whose(ctx)
	if err != nil {
		return MadeInvitation{}, err
	}
	if i.ID, err = uuid.NewV7(); err != nil {
		return MadeInvitation{}, err
	}
	var who *uuid.UUID
	if by != uuid.Nil {
		who = &by
	}
	i.MadeAt = d.now()
	i.ExpiresAt = i.MadeAt.Add(holds[i.Purpose])
	made := MadeInvitation{i, newCode()}
	digest := digestOf(byCode, made.Code)
	return made, d.in(ctx, func(q *sqlgen.Queries) error {
		if _, err := q.AddWayIn(ctx, sqlgen.AddWayInParams{What: byCode, Word: wordOf(digest), HouseholdID: household, About: i.ID}); err != nil {
			return err
		}
		return q.AddInvitation(ctx, sqlgen.AddInvitationParams{
			ID: i.ID, Purpose: string(i.Purpose), Role: string(i.Role), Name: i.Name, MemberID: i.MemberID, ByMember: who, Digest: digest, MadeAt: i.MadeAt, ExpiresAt: i.ExpiresAt,
		})
	})
}

// Invitations are those that still let somebody in, the newest first; without codes for devices, which last minutes.
func (d *Door) Invitations(ctx context.Context) ([]Invitation, error) {
	rows, err := d.store.Invitations(ctx, d.now())
	if err != nil {
		return nil, err
	}
	out := make([]Invitation, len(rows))
	for i, r := range rows {
		out[i] = invitationOf(r)
	}
	return out, nil
}

// Uninvite ends an invitation. One that was used stays used.
func (d *Door) Uninvite(ctx context.Context, id uuid.UUID) error {
	n, err := d.store.EndInvitation(ctx, sqlgen.EndInvitationParams{ID: id, Now: d.now()})
	if err != nil || n > 0 {
		return err
	}
	r, err := d.store.InvitationByID(ctx, id)
	if err == nil && r.UsedAt != nil {
		return propagation.ConflictError{Reason: "This invitation was used already: see the members."}
	}
	return missing(err, "This invitation")
}

// Offer is what an invitation says to the one who holds it.
type Offer struct {
	Purpose   Purpose `json:"purpose" enum:"member,device,again"`
	Household string  `json:"household"`
	Role      RoleKey `json:"role,omitempty"`
	RoleSays  string  `json:"role_says,omitempty"`
	Name      string  `json:"name"`
	// SignInName is of the member it is for, when there is one.
	SignInName string `json:"sign_in_name,omitempty"`
}

// What became of an invitation that opens nothing.
var (
	errUnknownCode = RefusedError{"This code is not known here. Look for a letter that is another, or ask for a new one."}
	errUsedCode    = RefusedError{"This invitation was used already: it opens once. Ask for a new one."}
	errLateCode    = RefusedError{"This invitation has run out. Ask for a new one."}
	errEndedCode   = RefusedError{"This invitation was taken back. Ask for a new one."}
)

// invited finds what a code opens, with a context of its household.
func (d *Door) invited(ctx context.Context, code, from string) (sqlgen.Invitation, context.Context, error) {
	if err := d.try(ctx, ofAddress, from); err != nil {
		return sqlgen.Invitation{}, ctx, err
	}
	way, err := d.store.WayInByWord(store.Nobody(ctx), sqlgen.WayInByWordParams{What: byCode, Word: wordOf(digestOf(byCode, code))})
	if store.IsMissing(err) {
		return sqlgen.Invitation{}, ctx, errUnknownCode
	}
	if err != nil {
		return sqlgen.Invitation{}, ctx, err
	}
	own := store.As(ctx, way.HouseholdID)
	r, err := d.store.InvitationByID(own, way.About)
	switch {
	case store.IsMissing(err):
		return r, ctx, errUnknownCode
	case err != nil:
		return r, ctx, err
	case r.UsedAt != nil:
		return r, ctx, errUsedCode
	case r.EndedAt != nil:
		return r, ctx, errEndedCode
	case !d.now().Before(r.ExpiresAt):
		return r, ctx, errLateCode
	}
	return r, own, nil
}

// LookAt says what an invitation offers; it stays unused.
func (d *Door) LookAt(ctx context.Context, code, from string) (Offer, error) {
	r, own, err := d.invited(ctx, code, from)
	if err != nil {
		return Offer{}, err
	}
	h, err := d.store.HouseholdNow(own)
	if err != nil {
		return Offer{}, missing(err, "This household")
	}
	role := RoleKey(r.Role)
	o := Offer{Purpose: Purpose(r.Purpose), Household: h.Name, Role: role, RoleSays: role.Row().Says, Name: r.Name}
	if r.MemberID != nil {
		m, err := d.store.MemberByID(own, *r.MemberID)
		if err != nil {
			return Offer{}, missing(err, "This member")
		}
		o.Name, o.SignInName = m.Name, m.SignInName
	}
	return o, nil
}

// Joining is what somebody with an invitation says.
type Joining struct {
	Code string `json:"code" maxLength:"60"`
	// Household names a household that has no name yet.
	Household  string `json:"household,omitempty" maxLength:"240"`
	Name       string `json:"name,omitempty" maxLength:"240"`
	SignInName string `json:"sign_in_name,omitempty" maxLength:"160"`
	Passphrase string `json:"passphrase,omitempty" maxLength:"600"`
	Device     string `json:"device,omitempty" maxLength:"320"`
}

// Join uses an invitation, once: a new member comes in, a device is let in, or a member sets a new passphrase.
func (d *Door) Join(ctx context.Context, j Joining, from string) (Me, error) {
	r, own, err := d.invited(ctx, j.Code, from)
	if err != nil {
		return Me{}, err
	}
	return joinings[Purpose(r.Purpose)](d, own, r, j)
}

var joinings = map[Purpose]func(d *Door, ctx context.Context, r sqlgen.Invitation, j Joining) (Me, error){
	ForMember: (*Door).joinAsMember, ForDevice: (*Door).joinWithDevice, ForAgain: (*Door).joinAgain,
}

// use uses an invitation up: of two at once one does.
func (d *Door) use(ctx context.Context, q *sqlgen.Queries, r sqlgen.Invitation) error {
	n, err := q.UseInvitation(ctx, sqlgen.UseInvitationParams{ID: r.ID, Now: d.now()})
	if err == nil && n == 0 {
		err = errUsedCode
	}
	return err
}

func (d *Door) joinAsMember(ctx context.Context, r sqlgen.Invitation, j Joining) (Me, error) {
	h, err := d.store.HouseholdNow(ctx)
	if err != nil {
		return Me{}, missing(err, "This household")
	}
	house := h.Name
	var err0 error
	if house == "" {
		house, err0 = cleanName("household", j.Household, mostHouseholdName)
	}
	name, err1 := cleanName("name", j.Name, mostName)
	known, err2 := signInName(j.SignInName)
	hash, err3 := d.newPassphrase(ctx, "passphrase", j.Passphrase, name, known, house)
	if err := errors.Join(err0, err1, err2, err3); err != nil {
		return Me{}, err
	}
	var id uuid.UUID
	err = d.in(ctx, func(q *sqlgen.Queries) error {
		if err := d.use(ctx, q, r); err != nil {
			return err
		}
		if h.Name == "" {
			if err := q.NameHousehold(ctx, house); err != nil {
				return err
			}
		}
		inside := *d
		inside.store = d.store.In(q)
		id, err = inside.add(ctx, newMember{name, known, RoleKey(r.Role), hash})
		return err
	})
	if err != nil {
		return Me{}, err
	}
	return d.signIn(ctx, id, j.Device, byInvitation)
}

func (d *Door) joinWithDevice(ctx context.Context, r sqlgen.Invitation, j Joining) (Me, error) {
	if err := d.in(ctx, func(q *sqlgen.Queries) error { return d.use(ctx, q, r) }); err != nil {
		return Me{}, err
	}
	return d.signIn(ctx, *r.MemberID, j.Device, byDevice)
}

func (d *Door) joinAgain(ctx context.Context, r sqlgen.Invitation, j Joining) (Me, error) {
	m, err := d.store.MemberByID(ctx, *r.MemberID)
	if err != nil {
		return Me{}, missing(err, "This member")
	}
	hash, err := d.newPassphrase(ctx, "passphrase", j.Passphrase, m.Name, m.SignInName)
	if err != nil {
		return Me{}, err
	}
	err = d.in(ctx, func(q *sqlgen.Queries) error {
		if err := d.use(ctx, q, r); err != nil {
			return err
		}
		return errors.Join(
			q.SetPassphrase(ctx, sqlgen.SetPassphraseParams{ID: m.ID, Passphrase: hash}),
			q.EndSignInsOf(ctx, sqlgen.EndSignInsOfParams{MemberID: m.ID, But: uuid.Nil, At: d.now()}),
		)
	})
	if err != nil {
		return Me{}, err
	}
	if err := errors.Join(d.forget(ctx, ofAccount, m.SignInName), d.forget(ctx, ofRecovery, m.SignInName)); err != nil {
		return Me{}, err
	}
	return d.signIn(ctx, m.ID, j.Device, byInvitation)
}
