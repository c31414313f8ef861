-- +goose Up
-- The parts of a shop, each as the JSON of the shop file, in the order of the file.
CREATE TABLE settings   (id TEXT PRIMARY KEY, position REAL NOT NULL, doc TEXT NOT NULL CHECK (json_valid(doc)));
CREATE TABLE areas      (id TEXT PRIMARY KEY, position REAL NOT NULL, doc TEXT NOT NULL CHECK (json_valid(doc)));
CREATE TABLE circuits   (id TEXT PRIMARY KEY, position REAL NOT NULL, doc TEXT NOT NULL CHECK (json_valid(doc)));
CREATE TABLE stations   (id TEXT PRIMARY KEY, position REAL NOT NULL, doc TEXT NOT NULL CHECK (json_valid(doc)));
CREATE TABLE containers (id TEXT PRIMARY KEY, position REAL NOT NULL, doc TEXT NOT NULL CHECK (json_valid(doc)));
CREATE TABLE places     (id TEXT PRIMARY KEY, position REAL NOT NULL, doc TEXT NOT NULL CHECK (json_valid(doc)));
CREATE TABLE items      (id TEXT PRIMARY KEY, position REAL NOT NULL, doc TEXT NOT NULL CHECK (json_valid(doc)));
CREATE TABLE modes      (id TEXT PRIMARY KEY, position REAL NOT NULL, doc TEXT NOT NULL CHECK (json_valid(doc)));
-- An item may have several homes; id is the item's, a blank and their number.
CREATE TABLE homes      (id TEXT PRIMARY KEY, position REAL NOT NULL, doc TEXT NOT NULL CHECK (json_valid(doc)),
    item  TEXT NOT NULL GENERATED ALWAYS AS (json_extract(doc, '$.item'))  STORED REFERENCES items (id)  DEFERRABLE INITIALLY DEFERRED,
    place TEXT NOT NULL GENERATED ALWAYS AS (json_extract(doc, '$.place')) STORED REFERENCES places (id) DEFERRABLE INITIALLY DEFERRED);
CREATE INDEX homes_place ON homes (place);

-- Every change, undo and redo is a revision; nothing is ever taken out of this list.
CREATE TABLE revisions (
    id    INTEGER PRIMARY KEY,
    at    TEXT NOT NULL,
    who   TEXT NOT NULL,
    what  TEXT NOT NULL,
    kind  TEXT NOT NULL CHECK (kind IN ('change', 'undo', 'redo')),
    target INTEGER REFERENCES revisions (id),
    -- of a change: applied, undone, or dropped once something else was done after it was undone
    state TEXT NOT NULL CHECK (state IN ('applied', 'undone', 'dropped'))
);
CREATE TABLE parts_changed (
    revision INTEGER NOT NULL REFERENCES revisions (id),
    part     TEXT NOT NULL,
    id       TEXT NOT NULL,
    position_before REAL, before TEXT,
    position_after  REAL, after  TEXT,
    PRIMARY KEY (revision, part, id)
);

-- +goose Down
DROP TABLE parts_changed;
DROP TABLE revisions;
DROP TABLE homes;
DROP TABLE modes;
DROP TABLE items;
DROP TABLE places;
DROP TABLE containers;
DROP TABLE stations;
DROP TABLE circuits;
DROP TABLE areas;
DROP TABLE settings;
