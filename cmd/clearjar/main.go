// Command clearjar is the one command of Clear Jar: it serves the application, loads
// the demo, and reaches the core for people who script (plan, judge, pot, climate,
// solve, export, import).
package main

import (
	"fmt"
	"os"

	"github.com/spf13/cobra"
)

func main() {
	root := &cobra.Command{
		Use: "clearjar", Short: "Measure, judge and keep the record of rooting cuttings",
		SilenceUsage: true, SilenceErrors: true,
	}
	root.AddCommand(serveCommand(), householdCommand(), configCommand(), backupCommand(), restoreCommand(), doctorCommand(), demoCommand(), planCommand(), judgeCommand(), calibrateCommand(), potCommand(), climateCommand(), dueCommand(), measureCommand(), sensorSimCommand(), solveCommand(), exportCommand(), importCommand(), openapiCommand(), handbookCommand())
	if err := root.Execute(); err != nil {
		fmt.Fprintln(os.Stderr, "clearjar:", err)
		os.Exit(1)
	}
}
