-- Plans that are kept: how things are to be, while the homes say where they are.

-- +goose Up
CREATE TABLE targets (id TEXT PRIMARY KEY, position REAL NOT NULL, doc TEXT NOT NULL CHECK (json_valid(doc)), format INTEGER NOT NULL DEFAULT 1);

-- +goose Down
DROP TABLE targets;
