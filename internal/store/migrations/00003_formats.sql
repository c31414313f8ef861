-- +goose Up
-- Every document says in which version of the format it was written, so that it
-- can be brought to a later one when it is read.
ALTER TABLE settings      ADD COLUMN format INTEGER NOT NULL DEFAULT 1;
ALTER TABLE areas         ADD COLUMN format INTEGER NOT NULL DEFAULT 1;
ALTER TABLE circuits      ADD COLUMN format INTEGER NOT NULL DEFAULT 1;
ALTER TABLE stations      ADD COLUMN format INTEGER NOT NULL DEFAULT 1;
ALTER TABLE containers    ADD COLUMN format INTEGER NOT NULL DEFAULT 1;
ALTER TABLE places        ADD COLUMN format INTEGER NOT NULL DEFAULT 1;
ALTER TABLE items         ADD COLUMN format INTEGER NOT NULL DEFAULT 1;
ALTER TABLE homes         ADD COLUMN format INTEGER NOT NULL DEFAULT 1;
ALTER TABLE modes         ADD COLUMN format INTEGER NOT NULL DEFAULT 1;
ALTER TABLE parts_changed ADD COLUMN format INTEGER NOT NULL DEFAULT 1;

-- +goose Down
ALTER TABLE parts_changed DROP COLUMN format;
ALTER TABLE modes         DROP COLUMN format;
ALTER TABLE homes         DROP COLUMN format;
ALTER TABLE items         DROP COLUMN format;
ALTER TABLE places        DROP COLUMN format;
ALTER TABLE containers    DROP COLUMN format;
ALTER TABLE stations      DROP COLUMN format;
ALTER TABLE circuits      DROP COLUMN format;
ALTER TABLE areas         DROP COLUMN format;
ALTER TABLE settings      DROP COLUMN format;
