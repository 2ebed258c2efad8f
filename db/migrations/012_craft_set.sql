-- Bindings that hold for one craft or a family of them: which craft they are for. A binding names its set in its settings.

CREATE TABLE craft_set (
  rig_id text NOT NULL REFERENCES rig,
  id text NOT NULL,
  name text NOT NULL CHECK (name <> ''),
  position integer NOT NULL,
  settings jsonb NOT NULL CHECK (settings ? 'patterns'),
  PRIMARY KEY (rig_id, id),
  CONSTRAINT craft_set_name_once UNIQUE (rig_id, name) DEFERRABLE INITIALLY DEFERRED
);
