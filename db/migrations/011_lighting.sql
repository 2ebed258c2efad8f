-- Lamps and displays that are dimmed together, and by what.

CREATE TABLE lighting (
  rig_id text NOT NULL REFERENCES rig,
  id text NOT NULL,
  name text NOT NULL CHECK (name <> ''),
  position integer NOT NULL,
  settings jsonb NOT NULL CHECK (settings ? 'level'),
  PRIMARY KEY (rig_id, id),
  CONSTRAINT lighting_name_once UNIQUE (rig_id, name) DEFERRABLE INITIALLY DEFERRED
);
