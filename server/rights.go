package server

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"clearjar/household"
)

// Which right an operation asks for, where it is not that of its method: reading for GET, recording for all else.
var rights = map[string]household.Right{
	"whoAmI": household.Open, "signIn": household.Open, "askPasskey": household.Open, "signInWithPasskey": household.Open,
	"lookAtInvitation": household.Open, "join": household.Open, "recover": household.Open, "signInToDemo": household.Open,
	// They have keys of their own.
	"takeReadings": household.Open, "calendar": household.Open,

	"signOut": household.Own, "signIns": household.Own, "endSignIn": household.Own, "signOutElsewhere": household.Own,
	"changePassphrase": household.Own, "makeRecoveryCodes": household.Own, "account": household.Own, "wayIn": household.Own, "letDeviceIn": household.Own,
	"askForPasskey": household.Own, "keepPasskey": household.Own, "removePasskey": household.Own,

	// They keep nothing.
	"layTable": household.Read, "measure": household.Read, "trySetting": household.Read, "planCut": household.Read, "cutChoices": household.Read,
	"weighOffer": household.Read, "howMany": household.Read, "solve": household.Read, "readRoots": household.Read,

	"nameHousehold": household.Settle, "chooseNumber": household.Settle, "chooseCareSchool": household.Settle,
	"makeKey": household.Keys, "keys": household.Keys, "revokeKey": household.Keys,
	"invitations": household.People, "invite": household.People, "uninvite": household.People, "letMemberInAgain": household.People,
	"changeMember": household.People, "endMember": household.People,
}

// Which right a kind of fact asks for, where it is not recording.
var factRights = map[string]household.Right{
	"planner_number": household.Settle, "care_school": household.Settle, "household_correction": household.Settle,
}

func rightOf(op *huma.Operation) household.Right {
	if r, ok := rights[op.OperationID]; ok {
		return r
	}
	if op.Method == http.MethodGet {
		return household.Read
	}
	return household.Record
}

// mayKeep refuses a kind of fact to one whose role may not note it.
func mayKeep(ctx context.Context, kind string) error {
	right, ok := factRights[kind]
	if !ok {
		right = household.Record
	}
	if me, in := meOf(ctx); in && !me.May(right) {
		return problem(http.StatusForbidden, "A "+string(me.Role)+" may not change this: "+me.Role.Row().Says+".")
	}
	return nil
}

// RightsInUse is the right each operation asks for, for those who read the contract.
func RightsInUse(api huma.API) map[string]household.Right {
	out := map[string]household.Right{}
	for _, path := range api.OpenAPI().Paths {
		for _, op := range []*huma.Operation{path.Get, path.Post, path.Put} {
			if op != nil {
				out[op.OperationID] = rightOf(op)
			}
		}
	}
	return out
}
