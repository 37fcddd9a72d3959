package main

import (
	"bytes"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/spf13/cobra"
	"github.com/stretchr/testify/require"

	"clearjar/store/storetest"
)

func call(cmd *cobra.Command, args ...string) (out, errs string, err error) {
	var o, e bytes.Buffer
	cmd.SetOut(&o)
	cmd.SetErr(&e)
	cmd.SilenceUsage, cmd.SilenceErrors = true, true
	cmd.SetArgs(args)
	err = cmd.Execute()
	return o.String(), e.String(), err
}

func TestMapsGoInAndOutByTheCommandLine(t *testing.T) {
	url := "--database=" + storetest.URL(t)
	file := filepath.Join(t.TempDir(), "maps.csv")
	require.NoError(t, os.WriteFile(file, []byte("mother,mother_name,group,stem,node,below_mm\nZEB,Zebrina,cissus_kin,A,1,30\nZEB,,,A,2,28\nZEB,,,B,1,-4\n"), 0o600))
	_, errs, err := call(importCommand(), "stems", file, url)
	require.ErrorContains(t, err, "--keep-good")
	require.Contains(t, errs, "line 4, nodes[0].below_mm: -4 mm is too short")
	out, _, err := call(exportCommand(), "stems", "--format=csv", url)
	require.NoError(t, err)
	require.Equal(t, 1, strings.Count(out, "\n"), "nothing was kept but the header is there")

	out, _, err = call(importCommand(), "stems", file, "--keep-good", url)
	require.NoError(t, err)
	require.Contains(t, out, "1 kept")
	out, _, err = call(exportCommand(), "stems", "--format=csv", url)
	require.NoError(t, err)
	require.Equal(t, 3, strings.Count(out, "\n"))
	require.Contains(t, out, "ZEB,Zebrina,cissus_kin")

	_, _, err = call(exportCommand(), "shoes", url)
	require.ErrorContains(t, err, "stems or plans")
	_, _, err = call(importCommand(), "stems", filepath.Join(t.TempDir(), "none.csv"), url)
	require.ErrorContains(t, err, "none.csv")
}
