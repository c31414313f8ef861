-- How the shop was on days that are kept, and the secret address of the feed of what is due.

-- +goose Up
CREATE TABLE snapshots (id INTEGER PRIMARY KEY AUTOINCREMENT, day TEXT NOT NULL, doc TEXT NOT NULL CHECK (json_valid(doc)));
CREATE TABLE feed (only_one INTEGER PRIMARY KEY CHECK (only_one = 1), secret TEXT NOT NULL);

-- +goose Down
DROP TABLE feed;
DROP TABLE snapshots;
