-- +goose Up
-- Plans that are neither taken over nor thrown away, for the revision they were made for. Their
-- numbers are never given again: a window from yesterday must not take over another plan.
CREATE TABLE plans (
    id   INTEGER PRIMARY KEY AUTOINCREMENT,
    at   TEXT NOT NULL,
    base INTEGER NOT NULL,
    doc  TEXT CHECK (doc IS NULL OR json_valid(doc)) -- NULL while it is being looked for
);

-- +goose Down
DROP TABLE plans;
