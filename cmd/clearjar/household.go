package main

import (
	"bufio"
	"context"
	"errors"
	"fmt"
	"os"
	"strings"

	"github.com/google/uuid"
	"github.com/spf13/cobra"
	"golang.org/x/term"

	"clearjar/household"
	"clearjar/propagation"
	"clearjar/store"
)

// householdCommand is for the one who runs the server: which households there are, and a way in when nobody has one.
func householdCommand() *cobra.Command {
	cmd := &cobra.Command{Use: "household", Short: "Households of this server, and ways into them"}
	cmd.AddCommand(householdsCommand(), newHouseholdCommand(), firstCodeCommand(), newMemberCommand(), nameCommand())
	return cmd
}

// atDoor lets a command work at the door of a household.
func atDoor(do func(cmd *cobra.Command, s *store.Store, d *household.Door, args []string) error) (*cobra.Command, *string) {
	var url, id string
	cmd := &cobra.Command{RunE: func(cmd *cobra.Command, args []string) error {
		s, garden, err := open(cmd, url)
		if err != nil {
			return err
		}
		defer s.Close()
		if id != "" {
			of, err := uuid.Parse(id)
			if err != nil {
				return fmt.Errorf("--household %s is no id: clearjar household list tells them", id)
			}
			cmd.SetContext(store.As(cmd.Context(), of))
		}
		return do(cmd, s, household.At(s, garden.Now), args)
	}}
	databaseFlag(cmd, &url)
	return cmd, &id
}

func householdsCommand() *cobra.Command {
	cmd, _ := atDoor(func(cmd *cobra.Command, s *store.Store, d *household.Door, _ []string) error {
		all, err := s.EveryHousehold(cmd.Context())
		if err != nil {
			return err
		}
		for _, id := range all {
			own := store.As(cmd.Context(), id)
			row, err := s.HouseholdNow(own)
			if err != nil {
				return err
			}
			members, err := d.Members(own)
			if err != nil {
				return err
			}
			in := 0
			for _, m := range members {
				if m.EndedAt == nil {
					in++
				}
			}
			fmt.Printf("%s  %3d members  %s\n", id, in, row.Name)
		}
		return nil
	})
	cmd.Use, cmd.Short, cmd.Args = "list", "Every household, with its id and how many may come in", cobra.NoArgs
	return cmd
}

func newHouseholdCommand() *cobra.Command {
	cmd, _ := atDoor(func(cmd *cobra.Command, _ *store.Store, d *household.Door, args []string) error {
		id, err := d.New(cmd.Context(), args[0], "")
		if err != nil {
			return err
		}
		fmt.Printf("Household %s is there.\n", id)
		return sayFirstCode(store.As(cmd.Context(), id), d)
	})
	cmd.Use, cmd.Short, cmd.Args = "add NAME", "Make a household, and a code for its first keeper", cobra.ExactArgs(1)
	return cmd
}

func firstCodeCommand() *cobra.Command {
	cmd, id := atDoor(func(cmd *cobra.Command, _ *store.Store, d *household.Door, _ []string) error {
		return sayFirstCode(cmd.Context(), d)
	})
	cmd.Use, cmd.Short, cmd.Args = "code", "Make a code that lets a keeper in once, when nobody has a way in", cobra.NoArgs
	cmd.Flags().StringVar(id, "household", "", "id of the household (default: the first)")
	return cmd
}

// sayFirstCode prints a code for a keeper.
func sayFirstCode(ctx context.Context, d *household.Door) error {
	first, err := d.First(ctx)
	if err != nil {
		return err
	}
	fmt.Printf("Code for a keeper, good once and until %s: %s\nOpen Clear Jar, choose \"I have a code\", and type it.\n", first.ExpiresAt.Local().Format("2 Jan 2006, 15:04"), first.Code)
	return nil
}

func nameCommand() *cobra.Command {
	cmd, id := atDoor(func(cmd *cobra.Command, _ *store.Store, d *household.Door, args []string) error {
		return d.Name(cmd.Context(), args[0])
	})
	cmd.Use, cmd.Short, cmd.Args = "name NAME", "Call a household by a name", cobra.ExactArgs(1)
	cmd.Flags().StringVar(id, "household", "", "id of the household (default: the first)")
	return cmd
}

func newMemberCommand() *cobra.Command {
	var name, role string
	cmd, id := atDoor(func(cmd *cobra.Command, _ *store.Store, d *household.Door, args []string) error {
		passphrase, err := readPassphrase()
		if err != nil {
			return err
		}
		if name == "" {
			name = args[0]
		}
		if _, err := d.AddMember(cmd.Context(), name, args[0], household.RoleKey(role), passphrase); err != nil {
			return err
		}
		fmt.Printf("%s can sign in as %s.\n", name, args[0])
		return nil
	})
	cmd.Use, cmd.Short, cmd.Args = "member SIGN-IN-NAME", "Add a member; the passphrase is asked for, or read from standard input", cobra.ExactArgs(1)
	cmd.Flags().StringVar(id, "household", "", "id of the household (default: the first)")
	cmd.Flags().StringVar(&name, "name", "", "name that the others see (default: the sign-in name)")
	cmd.Flags().StringVar(&role, "role", string(household.Keeper), "keeper, helper or guest")
	return cmd
}

// readPassphrase asks at a terminal, unseen, or takes the first line of standard input.
func readPassphrase() (string, error) {
	in := int(os.Stdin.Fd())
	if !term.IsTerminal(in) {
		line, err := bufio.NewReader(os.Stdin).ReadString('\n')
		if line == "" {
			return "", errors.Join(errors.New("no passphrase came in"), err)
		}
		return strings.TrimRight(line, "\r\n"), nil
	}
	fmt.Fprint(os.Stderr, "Passphrase (it is not shown): ")
	raw, err := term.ReadPassword(in)
	fmt.Fprintln(os.Stderr)
	return string(raw), err
}

// greet tells the one who runs the server how the first keeper comes in, while nobody can.
func greet(ctx context.Context, s *store.Store, garden *propagation.Garden) error {
	d := household.At(s, garden.Now)
	some, err := d.HasMembers(ctx, store.First)
	if err != nil || some {
		return err
	}
	fmt.Println("Nobody is a member of this household yet.")
	return sayFirstCode(ctx, d)
}
