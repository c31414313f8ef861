-- +goose Up
-- What happened, beside the shop: only ever added to, with numbers of its own, outside
-- revisions and undo. Day is the day of at, where it happened.
CREATE TABLE events (
    id       INTEGER PRIMARY KEY AUTOINCREMENT,
    at       TEXT NOT NULL,
    day      TEXT NOT NULL,
    who      TEXT NOT NULL,
    what     TEXT NOT NULL,
    item     TEXT NOT NULL,
    place    TEXT NOT NULL,
    n        INTEGER NOT NULL,
    note     TEXT NOT NULL,
    device   TEXT NOT NULL,
    corrects INTEGER UNIQUE REFERENCES events (id)
);
CREATE INDEX events_use   ON events (item, what, day);
CREATE INDEX events_item  ON events (item);
CREATE INDEX events_place ON events (place) WHERE place <> '';
CREATE INDEX events_day   ON events (day);
CREATE INDEX events_what  ON events (what, day);
-- +goose StatementBegin
CREATE TRIGGER events_stay BEFORE UPDATE ON events BEGIN SELECT raise(ABORT, 'events are only ever added'); END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER events_keep BEFORE DELETE ON events BEGIN SELECT raise(ABORT, 'events are only ever added'); END;
-- +goose StatementEnd
-- What is out of its home now, as the events add up.
CREATE TABLE out (item TEXT PRIMARY KEY, n INTEGER NOT NULL CHECK (n > 0), since INTEGER NOT NULL REFERENCES events (id));
-- How often each thing was used in all, and when last.
CREATE TABLE used (item TEXT PRIMARY KEY, n INTEGER NOT NULL, last TEXT NOT NULL);

-- +goose Down
DROP TABLE used;
DROP TABLE out;
DROP TABLE events;
