package main

import (
	"errors"
	"fmt"
	"os"
	"time"

	"github.com/spf13/cobra"

	"clearjar/keeping"
)

func backupCommand() *cobra.Command {
	var url string
	cmd := &cobra.Command{
		Use: "backup FILE", Short: "Everything, photos too, into one file that is read back; the server may go on", Args: cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			if url == "" {
				return errNoDatabase
			}
			began := time.Now()
			about, err := keeping.Backup(cmd.Context(), url, args[0], time.Now)
			if err != nil {
				return err
			}
			info, err := os.Stat(args[0])
			if err != nil {
				return err
			}
			fmt.Printf("Kept in %s and read back: %d cuttings, %d photos, %d facts of %d households; %.1f MB in %.1f s.\n", args[0], about.Cuttings, about.Photos, about.Facts, about.Households, float64(info.Size())/1e6, time.Since(began).Seconds())
			return nil
		},
	}
	databaseFlag(cmd, &url)
	return cmd
}

func restoreCommand() *cobra.Command {
	var url string
	var replace bool
	cmd := &cobra.Command{
		Use: "restore FILE", Short: "A backup into an empty database, whole or not at all", Args: cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			if url == "" {
				return errNoDatabase
			}
			began := time.Now()
			about, err := keeping.Restore(cmd.Context(), url, args[0], replace)
			if err != nil {
				return err
			}
			fmt.Printf("Restored from %s, as of %s: %d cuttings, %d photos, %d facts of %d households, in %.1f s. Everybody signs in anew.\n", args[0], about.MadeAt.Local().Format("2 Jan 2006, 15:04"), about.Cuttings, about.Photos, about.Facts, about.Households, time.Since(began).Seconds())
			return nil
		},
	}
	databaseFlag(cmd, &url)
	cmd.Flags().BoolVar(&replace, "replace", false, "in place of what is there, which is gone then")
	return cmd
}

var errNoDatabase = errors.New("no database: give --database or set CLEARJAR_DATABASE")

func doctorCommand() *cobra.Command {
	var s settings
	cmd := &cobra.Command{
		Use: "doctor", Short: "Looks at database, version, disk, clock, certificates and backups, and says what to do", Args: cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			if _, err := settle(cmd.Flags()); err != nil {
				return err
			}
			bad := 0
			for _, c := range keeping.Examine(cmd.Context(), keeping.Patient{Database: s.url, Way: s.wish, Copies: s.backupFolder, Now: time.Now}) {
				fmt.Println(c)
				if c.State == keeping.Bad {
					bad++
				}
			}
			if bad > 0 {
				return fmt.Errorf("%d of these need looking after", bad)
			}
			return nil
		},
	}
	cmd.Flags().AddFlagSet(serveFlags(&s))
	return cmd
}
