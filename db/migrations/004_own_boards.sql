-- Boards whose model the catalogue does not know carry its description.

ALTER TABLE board ADD COLUMN own jsonb;
