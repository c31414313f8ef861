package main

import (
	"encoding/json"
	"io"
	"os"

	"github.com/spf13/cobra"

	"hobrak/internal/core/outline"
	"hobrak/internal/photo"
)

func outlineCommand() *cobra.Command {
	var file, paper, out string
	var o outline.Options
	c := &cobra.Command{
		Use:   "outline --photo P.jpg --sheet a4|letter|WxH --out O.json",
		Short: "Outline and size of a tool from a photograph of it on a sheet of paper, in mm",
		Args:  cobra.NoArgs,
		RunE: func(c *cobra.Command, _ []string) error {
			var err error
			if o.SheetW, o.SheetH, err = photo.SheetSize(paper); err != nil {
				return &exit{code: exitInput, err: err}
			}
			data, err := os.ReadFile(file)
			if err != nil {
				return &exit{code: exitInput, err: err}
			}
			f, err := photo.Outline(c.Context(), data, o)
			if err != nil {
				return &exit{code: exitInput, err: err}
			}
			if err := writeFile(out, func(w io.Writer) error {
				e := json.NewEncoder(w)
				e.SetIndent("", "  ")
				return e.Encode(f)
			}); err != nil {
				return &exit{code: exitInput, err: err}
			}
			return nil
		},
	}
	f := c.Flags()
	f.StringVar(&file, "photo", "", "photograph, JPEG, PNG or WebP")
	f.StringVar(&paper, "sheet", "a4", "a4, a3, letter, or its sides in mm, as 420x594")
	f.StringVar(&out, "out", "", "file for the outline, JSON")
	f.Float64Var(&o.Tall, "tall", 0, "how high the tool stands over the sheet, mm")
	f.Float64Var(&o.Camera, "camera", 0, "how high the camera was over the sheet, mm")
	required(c, "photo", "out")
	return c
}
