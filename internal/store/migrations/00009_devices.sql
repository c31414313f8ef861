-- Devices that are let in beyond this machine, and what is kept of the pass phrase; what the events add up to by days, so that
-- answers do not grow slower with them.

-- +goose Up
CREATE TABLE devices (
    id INTEGER PRIMARY KEY AUTOINCREMENT,
    name TEXT NOT NULL,
    role TEXT NOT NULL CHECK (role IN ('maker', 'household', 'guest')),
    key BLOB NOT NULL UNIQUE,
    made TEXT NOT NULL,
    seen TEXT NOT NULL,
    until TEXT NOT NULL
);
CREATE TABLE sharing (only_one INTEGER PRIMARY KEY CHECK (only_one = 1), phrase TEXT NOT NULL);

-- Uses of each thing by days.
CREATE TABLE uses_by_day (item TEXT NOT NULL, day TEXT NOT NULL, n INTEGER NOT NULL, PRIMARY KEY (item, day)) WITHOUT ROWID;
CREATE INDEX uses_day ON uses_by_day (day, item, n);
INSERT INTO uses_by_day (item, day, n) SELECT e.item, e.day, sum(max(1, e.n)) FROM events e
    WHERE e.what IN ('used', 'taken') AND NOT EXISTS (SELECT 1 FROM events b WHERE b.corrects = e.id) GROUP BY e.item, e.day;
-- How many pieces of each thing were put back on a day that had been taken on another. Filled by the store, which then notes a row
-- without an item.
CREATE TABLE stays (day TEXT NOT NULL, item TEXT NOT NULL, n INTEGER NOT NULL, PRIMARY KEY (day, item)) WITHOUT ROWID;

-- +goose Down
DROP TABLE stays;
DROP TABLE uses_by_day;
DROP TABLE sharing;
DROP TABLE devices;
