-- +goose Up
-- What happened to one thing is found without going through everything.
CREATE INDEX parts_changed_id ON parts_changed (id, part, revision);

-- +goose Down
DROP INDEX parts_changed_id;
