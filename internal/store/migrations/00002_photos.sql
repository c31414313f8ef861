-- +goose Up
-- Photos by name; the name is made of the picture, so a photo never changes. The
-- shop's parts say which things they show. What no thing shows any more stays,
-- because undo may bring it back.
CREATE TABLE photos (
    name   TEXT PRIMARY KEY,
    at     TEXT NOT NULL,
    width  INTEGER NOT NULL,
    height INTEGER NOT NULL,
    large  BLOB NOT NULL,
    small  BLOB NOT NULL
);

-- +goose Down
DROP TABLE photos;
