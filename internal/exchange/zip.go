package exchange

import (
	"archive/zip"
	"bytes"
	"errors"
	"fmt"
	"io"
	"path"
	"slices"
	"strings"

	"hobrak/internal/core/shop"
)

// Photo as it travels: its name as the shop file has it, and the picture.
type Photo struct {
	Name string
	Data []byte
}

// Limits of a zip.
const (
	maxZipPhotos = 20_000
	maxZipPhoto  = 16 << 20
	maxZipShop   = shop.MaxFile
)

// WriteZip writes a shop with its photos: shop.json, and each photo in the
// folder photos. Open gives the picture of a name; one that is not there is left out.
func WriteZip(w io.Writer, s *shop.Shop, open func(name string) ([]byte, error)) error {
	z := zip.NewWriter(w)
	f, err := z.Create("shop.json")
	if err == nil {
		_, err = f.Write(shop.Write(s))
	}
	if err != nil {
		return fmt.Errorf("writing shop.json: %w", err)
	}
	for _, name := range PhotosOf(s) {
		data, err := open(name)
		if err != nil {
			return fmt.Errorf("photo %s: %w", name, err)
		}
		if data == nil {
			continue
		}
		// A picture does not get smaller once more.
		f, err := z.CreateHeader(&zip.FileHeader{Name: "photos/" + name, Method: zip.Store})
		if err == nil {
			_, err = f.Write(data)
		}
		if err != nil {
			return fmt.Errorf("writing photos/%s: %w", name, err)
		}
	}
	return z.Close()
}

// PhotosOf lists the photos a shop names, each once.
func PhotosOf(s *shop.Shop) []string {
	var out []string
	s.Pictures(func(of shop.Pictured) {
		for _, p := range *of.List {
			if !slices.Contains(out, p) {
				out = append(out, p)
			}
		}
	})
	return out
}

// ReadZip reads a shop with its photos. Each photo is handed on by itself, so
// that not all of them are in memory at once; keep says under which name it is
// kept, and the shop that is returned calls it that.
func ReadZip(r io.ReaderAt, size int64, keep func(Photo) (string, error)) (*shop.Shop, error) {
	z, err := zip.NewReader(r, size)
	if err != nil {
		return nil, fmt.Errorf("this is no zip that can be read: %w", err)
	}
	if len(z.File) > maxZipPhotos {
		return nil, fmt.Errorf("there are %d files in it; at most %d can be read", len(z.File), maxZipPhotos)
	}
	at := slices.IndexFunc(z.File, func(f *zip.File) bool { return f.Name == "shop.json" })
	if at < 0 {
		return nil, errors.New("there is no shop.json in it")
	}
	data, err := unpacked(z.File[at], maxZipShop)
	if err != nil {
		return nil, err
	}
	s, err := shop.Read(data)
	if err != nil {
		return nil, fmt.Errorf("shop.json cannot be read:\n%w", err)
	}
	wanted, called := PhotosOf(s), map[string]string{}
	for _, f := range z.File {
		dir, name := path.Split(f.Name)
		if dir != "photos/" || name == "" || !slices.Contains(wanted, name) {
			continue
		}
		data, err := unpacked(f, maxZipPhoto)
		if err != nil {
			return nil, err
		}
		if called[name], err = keep(Photo{name, data}); err != nil {
			return nil, fmt.Errorf("%s: %w", f.Name, err)
		}
	}
	s.Pictures(func(of shop.Pictured) {
		for k, name := range *of.List {
			if kept := called[name]; kept != "" {
				(*of.List)[k] = kept
			}
		}
	})
	return s, nil
}

// unpacked reads a file of a zip that says and has no more than most bytes.
func unpacked(f *zip.File, most int64) ([]byte, error) {
	in, err := f.Open()
	if err != nil {
		return nil, fmt.Errorf("%s: %w", f.Name, err)
	}
	defer in.Close()
	var b bytes.Buffer
	n, err := io.Copy(&b, io.LimitReader(in, most+1))
	switch {
	case err != nil:
		return nil, fmt.Errorf("%s is broken: %w", f.Name, err)
	case n > most:
		return nil, fmt.Errorf("%s is larger than %d MB", f.Name, most>>20)
	}
	return b.Bytes(), nil
}

// IsZip tells by its name whether a file is a shop with its photos.
func IsZip(name string) bool { return strings.EqualFold(path.Ext(name), ".zip") }
