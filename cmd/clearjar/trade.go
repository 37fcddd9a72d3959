package main

import (
	"errors"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"strings"

	"github.com/spf13/cobra"

	"clearjar/propagation/files"
	"clearjar/propagation/files/exchange"
)

const formatsHelp = `JSON: {"format": "clearjar/stem-maps" or "clearjar/cut-plans", "version": 1, "records": [...]}.
CSV: stem maps one line a node (mother, stem, node, below_mm and more), plans one line a piece.
Lengths are mm; below_mm is the internode below the node; true or false for yes and no.`

func exportCommand() *cobra.Command {
	var url, format string
	cmd := &cobra.Command{
		Use: "export stems|plans", Short: "Write all stem maps, or all kept plans, to standard output",
		Long: formatsHelp, Args: cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			s, garden, err := open(cmd, url)
			if err != nil {
				return err
			}
			defer s.Close()
			data, err := files.Export(cmd.Context(), garden, args[0], format)
			if err != nil {
				return err
			}
			_, err = cmd.OutOrStdout().Write(data)
			return err
		},
	}
	databaseFlag(cmd, &url)
	cmd.Flags().StringVar(&format, "format", exchange.JSON, "json or csv")
	return cmd
}

func importCommand() *cobra.Command {
	var url, format string
	var keepGood bool
	cmd := &cobra.Command{
		Use: "import stems|plans FILE", Short: "Read stem maps or plans; every row is checked, and with a bad one nothing is kept",
		Long: formatsHelp + "\nFILE - reads standard input.", Args: cobra.ExactArgs(2),
		RunE: func(cmd *cobra.Command, args []string) error {
			data, err := readFile(cmd, args[1])
			if err != nil {
				return err
			}
			if format == "" {
				format = strings.TrimPrefix(filepath.Ext(args[1]), ".")
			}
			s, garden, err := open(cmd, url)
			if err != nil {
				return err
			}
			defer s.Close()
			report, err := files.Import(cmd.Context(), garden, args[0], format, data, keepGood, func(done, of int) {
				if of > 1000 {
					fmt.Fprintf(cmd.ErrOrStderr(), "%d of %d\n", done, of)
				}
			})
			if err != nil {
				return err
			}
			for _, b := range report.Bad {
				fmt.Fprintln(cmd.ErrOrStderr(), b)
			}
			if more := report.BadCount - len(report.Bad); more > 0 {
				fmt.Fprintf(cmd.ErrOrStderr(), "and %d more bad rows\n", more)
			}
			fmt.Fprintln(cmd.OutOrStdout(), report.Says)
			if len(report.Bad) > 0 && !keepGood {
				return errors.New("nothing was kept; --keep-good keeps the good rows")
			}
			return nil
		},
	}
	databaseFlag(cmd, &url)
	cmd.Flags().StringVar(&format, "format", "", "json or csv (default: by the file's name)")
	cmd.Flags().BoolVar(&keepGood, "keep-good", false, "keep the good rows though others are bad")
	return cmd
}

func readFile(cmd *cobra.Command, path string) ([]byte, error) {
	in := cmd.InOrStdin()
	if path != "-" {
		f, err := os.Open(path)
		if err != nil {
			return nil, err
		}
		defer func() { _ = f.Close() }()
		in = f
	}
	return io.ReadAll(io.LimitReader(in, exchange.MostBytes+1))
}
