// Command hobrak gives every thing in a home workshop one home.
package main

import (
	"context"
	"errors"
	"fmt"
	"os"

	"github.com/spf13/cobra"

	"hobrak/internal/core/length"
	"hobrak/internal/core/say"
	"hobrak/internal/core/shop"
)

// Exit codes, as the open format fixes them.
const (
	exitFine     = 0
	exitBroken   = 1 // a rule is broken or something has no home
	exitInput    = 2 // the input cannot be read
	exitInternal = 3
)

// exit is an error that carries its exit code. Quiet ones have said what there is to say.
type exit struct {
	code  int
	err   error
	quiet bool
	units length.System // its sentence is written in; empty is metric
}

func (e *exit) Error() string { return e.err.Error() }
func (e *exit) Unwrap() error { return e.err }

func main() { os.Exit(run(os.Args[1:])) }

func run(args []string) (code int) {
	defer func() {
		if r := recover(); r != nil {
			fmt.Fprintf(os.Stderr, "hobrak: internal failure: %v\n", r)
			code = exitInternal
		}
	}()
	root := &cobra.Command{
		Use:           "hobrak",
		Short:         "Give every thing in a home workshop one home",
		SilenceErrors: true,
		SilenceUsage:  true,
	}
	root.CompletionOptions.DisableDefaultCmd = true
	root.AddCommand(demoCommand(), serveCommand(), fitCommand(), checkCommand(), calcCommand(), readCommand(), floorCommand(), changeCommand(), arrangeCommand(), movesCommand(), cutCommand(), buildCommand(), outlineCommand(), supplyCommand(), dueCommand(), monthCommand(), importCommand(), exportCommand(), backupCommand(), restoreCommand(), doctorCommand(), apiCommand())
	root.SetArgs(args)
	err := root.ExecuteContext(context.Background())
	if err == nil {
		return exitFine
	}
	var e *exit
	if !errors.As(err, &e) {
		e = &exit{code: exitInput, err: err} // cobra's own: an unknown flag or command
	}
	if !e.quiet {
		fmt.Fprintf(os.Stderr, "hobrak: %s\n", say.In(e.units, err.Error()))
	}
	return e.code
}

// readShop reads a shop file. Its errors carry exit code 2.
func readShop(path string) (*shop.Shop, error) {
	info, err := os.Stat(path)
	if err != nil {
		return nil, &exit{code: exitInput, err: err}
	}
	if info.Size() > shop.MaxFile {
		return nil, &exit{code: exitInput, err: fmt.Errorf("%s: %d MB is too large for a shop file; at most %d MB", path, info.Size()>>20, shop.MaxFile>>20)}
	}
	data, err := os.ReadFile(path)
	if err != nil {
		return nil, &exit{code: exitInput, err: err}
	}
	s, err := shop.Read(data)
	if err != nil {
		return nil, &exit{code: exitInput, err: fmt.Errorf("%s cannot be read:\n%w", path, err)}
	}
	return s, nil
}
