-- What chooses among layers, and when they fall back, belongs to the set.

CREATE TABLE layer_set (
  rig_id text NOT NULL REFERENCES rig,
  id text NOT NULL,
  name text NOT NULL CHECK (name <> ''),
  position integer NOT NULL,
  settings jsonb NOT NULL,
  PRIMARY KEY (rig_id, id),
  CONSTRAINT layer_set_name_once UNIQUE (rig_id, name) DEFERRABLE INITIALLY DEFERRED
);

INSERT INTO layer_set (rig_id, id, name, position, settings)
SELECT DISTINCT rig_id, layer_set, layer_set, 1, '{"chosenBy": null, "timeoutMs": null}'::jsonb FROM layer;

ALTER TABLE layer ADD FOREIGN KEY (rig_id, layer_set) REFERENCES layer_set;
