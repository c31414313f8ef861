package store

import (
	"fmt"
	"os"

	"github.com/gofrs/flock"
)

// hold notes that this process has the database in use, or, alone, that no
// other may have. The note is a lock on a file beside it, which ends with the
// process however that ends; the file itself stays and means nothing.
func hold(path string, alone bool) (*flock.Flock, error) {
	f := flock.New(path+".lock", flock.SetPermissions(ownFile))
	try := f.TryRLock
	if alone {
		try = f.TryLock
	}
	ok, err := try()
	switch {
	case err != nil:
		return nil, fmt.Errorf("locking %s: %w", path, err)
	case !ok && alone:
		return nil, fmt.Errorf("%s: %w", path, ErrInUse)
	case !ok:
		return nil, fmt.Errorf("%s is being restored at the moment; try again when that is done", path)
	}
	return f, nil
}

// exists tells whether there is something of that name.
func exists(path string) bool {
	_, err := os.Lstat(path)
	return err == nil
}
