-- Things that are taken together; to whom something was lent, until when, and where it is meanwhile.

-- +goose Up
CREATE TABLE kits (id TEXT PRIMARY KEY, position REAL NOT NULL, doc TEXT NOT NULL CHECK (json_valid(doc)), format INTEGER NOT NULL DEFAULT 1);
ALTER TABLE events ADD COLUMN lent_to TEXT NOT NULL DEFAULT '';
ALTER TABLE events ADD COLUMN due TEXT NOT NULL DEFAULT '';
ALTER TABLE events ADD COLUMN meanwhile TEXT NOT NULL DEFAULT '';
-- What is taken is used.
DELETE FROM used;
INSERT INTO used (item, n, last) SELECT e.item, sum(max(1, e.n)), max(e.day) FROM events e
    WHERE e.what IN ('used', 'taken') AND NOT EXISTS (SELECT 1 FROM events b WHERE b.corrects = e.id) GROUP BY e.item;
-- Presses that came with a key of their own: who presses again because the answer was lost gets the same answer.
CREATE TABLE taps (key TEXT PRIMARY KEY, first INTEGER NOT NULL, last INTEGER NOT NULL);
-- What stood on the labels that were printed last, by a mark of it.
CREATE TABLE labels (key TEXT PRIMARY KEY, mark TEXT NOT NULL, day TEXT NOT NULL);
-- Rounds on which one looks whether everything is where it lives; what was seen on one is among the events, noted with it.
CREATE TABLE looks (id INTEGER PRIMARY KEY AUTOINCREMENT, began TEXT NOT NULL, ended TEXT NOT NULL DEFAULT '', scope TEXT NOT NULL, first INTEGER NOT NULL);

-- +goose Down
DROP TABLE looks;
DROP TABLE labels;
DROP TABLE taps;
ALTER TABLE events DROP COLUMN meanwhile;
ALTER TABLE events DROP COLUMN due;
ALTER TABLE events DROP COLUMN lent_to;
DROP TABLE kits;
