package exchange

import (
	"archive/zip"
	"bytes"
	"context"
	"encoding/xml"
	"errors"
	"fmt"
	"io"
	"strings"

	"hobrak/internal/core/table"
)

// measured looks a workbook through before it is opened: what its parts unpack to, how many
// cells and texts there are, and in which columns. A small file may hold a cell at the far
// end of every row, and opening it would fill the memory.
func measured(ctx context.Context, data []byte) error {
	z, err := zip.NewReader(bytes.NewReader(data), int64(len(data)))
	if err != nil {
		return fmt.Errorf("this is no workbook that can be read: %w", err)
	}
	all := int64(0)
	for _, f := range z.File {
		name := strings.ToLower(f.Name)
		if !strings.HasSuffix(name, ".xml") && !strings.HasSuffix(name, ".rels") {
			continue
		}
		counted := &counted{ctx: ctx, most: min(maxXML, maxUnpacked-all)}
		if strings.Contains(name, "worksheets/") || strings.Contains(name, "sharedstrings") {
			err = counted.cells(f)
		} else {
			err = counted.skim(f)
		}
		if err != nil {
			return err
		}
		all += counted.bytes
	}
	return nil
}

// counted is what a part of a workbook holds.
type counted struct {
	ctx         context.Context
	most, bytes int64
	found       int
	in          io.ReadCloser
}

var errTooLarge = fmt.Errorf("it unpacks to more than %d MB; save it as CSV, or without pictures and formats", maxUnpacked>>20)

// Read counts what is read and stops at the most there may be, or when nobody waits any more.
func (c *counted) Read(p []byte) (int, error) {
	if err := c.ctx.Err(); err != nil {
		return 0, err
	}
	n, err := c.in.Read(p)
	if c.bytes += int64(n); c.bytes > c.most {
		return 0, errTooLarge
	}
	return n, err
}

func (c *counted) skim(f *zip.File) error {
	in, err := f.Open()
	if err != nil {
		return fmt.Errorf("%s: %w", f.Name, err)
	}
	defer in.Close()
	c.in = in
	_, err = io.Copy(io.Discard, c)
	return err
}

// cells goes through a sheet, or the texts the sheets share.
func (c *counted) cells(f *zip.File) error {
	in, err := f.Open()
	if err != nil {
		return fmt.Errorf("%s: %w", f.Name, err)
	}
	defer in.Close()
	c.in = in
	d := xml.NewDecoder(c)
	d.CharsetReader = func(_ string, r io.Reader) (io.Reader, error) { return r, nil }
	for {
		t, err := d.RawToken()
		switch {
		case err == io.EOF:
			return nil
		case errors.Is(err, errTooLarge), c.ctx.Err() != nil:
			return err
		case err != nil:
			return fmt.Errorf("this workbook is broken: %s: %w", f.Name, err)
		}
		e, ok := t.(xml.StartElement)
		if !ok || e.Name.Local != "c" && e.Name.Local != "si" {
			continue
		}
		if c.found++; c.found > maxCells {
			return fmt.Errorf("it has more than %d cells", maxCells)
		}
		for _, a := range e.Attr {
			if e.Name.Local == "c" && a.Name.Local == "r" && columnOf(a.Value) > table.MaxColumns {
				return fmt.Errorf("there is something in cell %s; at most %d columns can be read: clear what is to the right of the table", a.Value[:min(len(a.Value), 12)], table.MaxColumns)
			}
		}
	}
}

// columnOf gives the number of the column of a cell, A1 being in the first.
func columnOf(ref string) (n int) {
	for _, c := range ref {
		if c < 'A' || c > 'Z' || n > 1<<20 {
			break
		}
		n = 26*n + int(c-'A') + 1
	}
	return n
}
