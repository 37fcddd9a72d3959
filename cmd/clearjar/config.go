package main

import (
	"errors"
	"fmt"
	"io/fs"
	"log/slog"
	"os"
	"strings"

	"github.com/spf13/cobra"
	"github.com/spf13/pflag"
	"github.com/spf13/viper"
)

// Where settings come from: a flag, else the environment, else the file, else the default.
const (
	envPrefix  = "CLEARJAR"
	configFile = "/etc/clearjar/clearjar.yaml"
)

func envOf(name string) string {
	return envPrefix + "_" + strings.ToUpper(strings.ReplaceAll(name, "-", "_"))
}

// readConfig reads the file, if there is one. One that was named has to be there.
func readConfig() (*viper.Viper, string, error) {
	v := viper.New()
	file, named := os.LookupEnv(envOf("config"))
	if !named {
		file = configFile
	}
	v.SetConfigFile(file)
	v.SetConfigType("yaml")
	err := v.ReadInConfig()
	if errors.Is(err, fs.ErrNotExist) && !named {
		return v, "", nil
	}
	if err != nil {
		return v, "", fmt.Errorf("the settings in %s cannot be read: %w", file, err)
	}
	return v, file, nil
}

// setting is one of them as it is in use.
type setting struct {
	name, value, from, says string
}

// settle gives every flag that was not given the value of the environment or of the file, and tells where each came from. What the
// file says and nobody knows is refused: a slip of the pen must not go unseen.
func settle(flags *pflag.FlagSet) ([]setting, error) {
	v, file, err := readConfig()
	if err != nil {
		return nil, err
	}
	known := knownSettings()
	for _, key := range v.AllKeys() {
		if known.Lookup(key) == nil {
			return nil, fmt.Errorf("%s in %s is no setting: clearjar config lists those there are", key, file)
		}
	}
	var out []setting
	var failed error
	flags.VisitAll(func(f *pflag.Flag) {
		if known.Lookup(f.Name) == nil {
			return
		}
		from := "default"
		env, inEnv := os.LookupEnv(envOf(f.Name))
		value := env
		switch {
		case f.Changed:
			from = "flag"
		case inEnv:
			from = envOf(f.Name)
		case v.InConfig(f.Name):
			from, value = file, strings.Join(v.GetStringSlice(f.Name), ",")
			if !strings.HasSuffix(f.Value.Type(), "Slice") {
				value = v.GetString(f.Name)
			}
		}
		if from != "default" && from != "flag" {
			if err := f.Value.Set(value); err != nil {
				failed = errors.Join(failed, fmt.Errorf("%s, from %s: %w", f.Name, from, err))
			}
		}
		out = append(out, setting{f.Name, f.Value.String(), from, f.Usage})
	})
	return out, failed
}

// knownSettings are the settings of the server, each a flag of serve.
func knownSettings() *pflag.FlagSet { return serveFlags(&settings{}) }

func configCommand() *cobra.Command {
	var s settings
	cmd := &cobra.Command{
		Use: "config", Short: "Every setting, its value, and where that comes from", Args: cobra.NoArgs,
		Long: "Settings come from a flag of clearjar serve; else from the environment, CLEARJAR_ and the name in capitals; else from\n" + configFile + ", or the file that CLEARJAR_CONFIG names; else they are the default.",
		RunE: func(cmd *cobra.Command, _ []string) error {
			all, err := settle(cmd.Flags())
			if err != nil {
				return err
			}
			for _, one := range all {
				if one.name == "database" && one.value != "" {
					one.value = "(an address; it is not shown, for its password)"
				}
				fmt.Printf("%-14s %-28s from %s\n%14s %s\n", one.name, orNone(one.value), one.from, "", one.says)
			}
			return nil
		},
	}
	cmd.Flags().AddFlagSet(serveFlags(&s))
	return cmd
}

func orNone(s string) string {
	if s == "" || s == "[]" {
		return "(none)"
	}
	return s
}

// logAs chooses how logs are written. They name operations, never people, plants or secrets.
func logAs(kind string) error {
	switch kind {
	case "text":
		slog.SetDefault(slog.New(slog.NewTextHandler(os.Stderr, nil)))
	case "json":
		slog.SetDefault(slog.New(slog.NewJSONHandler(os.Stderr, nil)))
	default:
		return fmt.Errorf("--log %q is none: text or json", kind)
	}
	return nil
}
