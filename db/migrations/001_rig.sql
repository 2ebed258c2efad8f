-- A rig and everything in it. Every row carries its rig, and every reference goes through the pair (rig, id),
-- so that nothing can ever point into another rig.

CREATE TABLE rig (
  id text PRIMARY KEY,
  name text NOT NULL CHECK (name <> ''),
  format integer NOT NULL CHECK (format >= 1)
);

CREATE TABLE panel (
  rig_id text NOT NULL REFERENCES rig,
  id text NOT NULL,
  name text NOT NULL CHECK (name <> ''),
  position integer NOT NULL,
  width_mm double precision NOT NULL CHECK (width_mm > 0),
  height_mm double precision NOT NULL CHECK (height_mm > 0),
  corner_mm double precision NOT NULL CHECK (corner_mm >= 0),
  thickness_mm double precision NOT NULL CHECK (thickness_mm > 0),
  settings jsonb NOT NULL,
  PRIMARY KEY (rig_id, id)
);

CREATE TABLE supply (
  rig_id text NOT NULL REFERENCES rig,
  id text NOT NULL,
  name text NOT NULL CHECK (name <> ''),
  volts double precision NOT NULL CHECK (volts > 0),
  max_milliamps double precision NOT NULL CHECK (max_milliamps > 0),
  PRIMARY KEY (rig_id, id)
);

CREATE TABLE board (
  rig_id text NOT NULL REFERENCES rig,
  id text NOT NULL,
  name text NOT NULL CHECK (name <> ''),
  model text NOT NULL CHECK (model <> ''),
  identity text CHECK (identity ~ '^[0-9a-f]{16}$'),
  position integer NOT NULL,
  PRIMARY KEY (rig_id, id),
  -- One real board stands for one drawn board.
  CONSTRAINT board_identity_once UNIQUE (rig_id, identity) DEFERRABLE INITIALLY DEFERRED
);

CREATE TABLE expander (
  rig_id text NOT NULL REFERENCES rig,
  id text NOT NULL,
  board_id text NOT NULL,
  name text NOT NULL CHECK (name <> ''),
  kind text NOT NULL CHECK (kind <> ''),
  PRIMARY KEY (rig_id, id),
  FOREIGN KEY (rig_id, board_id) REFERENCES board
);

CREATE TABLE part (
  rig_id text NOT NULL REFERENCES rig,
  id text NOT NULL,
  panel_id text NOT NULL,
  name text NOT NULL CHECK (name <> ''),
  kind text NOT NULL CHECK (kind <> ''),
  x_mm double precision NOT NULL,
  y_mm double precision NOT NULL,
  rotation_deg double precision NOT NULL,
  settings jsonb NOT NULL,
  PRIMARY KEY (rig_id, id),
  FOREIGN KEY (rig_id, panel_id) REFERENCES panel
);
CREATE INDEX part_by_panel ON part (rig_id, panel_id);

CREATE TABLE legend (
  rig_id text NOT NULL REFERENCES rig,
  id text NOT NULL,
  panel_id text NOT NULL,
  part_id text,
  x_mm double precision NOT NULL,
  y_mm double precision NOT NULL,
  settings jsonb NOT NULL,
  PRIMARY KEY (rig_id, id),
  FOREIGN KEY (rig_id, panel_id) REFERENCES panel,
  FOREIGN KEY (rig_id, part_id) REFERENCES part
);
CREATE INDEX legend_by_panel ON legend (rig_id, panel_id);

CREATE TABLE lead (
  rig_id text NOT NULL REFERENCES rig,
  id text NOT NULL,
  part_id text NOT NULL,
  terminal text NOT NULL CHECK (terminal <> ''),
  number integer NOT NULL CHECK (number > 0),
  colour text NOT NULL CHECK (colour <> ''),
  board_id text,
  pin text,
  expander_id text,
  channel integer CHECK (channel >= 0),
  supply_id text,
  ground boolean NOT NULL,
  PRIMARY KEY (rig_id, id),
  FOREIGN KEY (rig_id, part_id) REFERENCES part,
  FOREIGN KEY (rig_id, board_id) REFERENCES board,
  FOREIGN KEY (rig_id, expander_id) REFERENCES expander,
  FOREIGN KEY (rig_id, supply_id) REFERENCES supply,
  CONSTRAINT lead_number_once UNIQUE (rig_id, number) DEFERRABLE INITIALLY DEFERRED,
  CONSTRAINT lead_terminal_once UNIQUE (rig_id, part_id, terminal) DEFERRABLE INITIALLY DEFERRED,
  -- Deferred, so that two leads can exchange their pins in one edit.
  CONSTRAINT lead_pin_once UNIQUE (rig_id, board_id, pin) DEFERRABLE INITIALLY DEFERRED,
  CONSTRAINT lead_channel_once UNIQUE (rig_id, expander_id, channel) DEFERRABLE INITIALLY DEFERRED,
  CONSTRAINT lead_pin_with_board CHECK ((board_id IS NULL) = (pin IS NULL)),
  CONSTRAINT lead_channel_with_expander CHECK ((expander_id IS NULL) = (channel IS NULL)),
  CONSTRAINT lead_one_end CHECK (
    (pin IS NOT NULL)::int + (channel IS NOT NULL)::int + (supply_id IS NOT NULL)::int + ground::int = 1
  )
);

CREATE TABLE layer (
  rig_id text NOT NULL REFERENCES rig,
  id text NOT NULL,
  layer_set text NOT NULL CHECK (layer_set <> ''),
  name text NOT NULL CHECK (name <> ''),
  position integer NOT NULL,
  PRIMARY KEY (rig_id, id),
  CONSTRAINT layer_name_once UNIQUE (rig_id, layer_set, name) DEFERRABLE INITIALLY DEFERRED
);

CREATE TABLE curve (
  rig_id text NOT NULL REFERENCES rig,
  id text NOT NULL,
  name text NOT NULL CHECK (name <> ''),
  points jsonb NOT NULL CHECK (jsonb_array_length(points) >= 2),
  PRIMARY KEY (rig_id, id),
  CONSTRAINT curve_name_once UNIQUE (rig_id, name) DEFERRABLE INITIALLY DEFERRED
);

CREATE TABLE binding (
  rig_id text NOT NULL REFERENCES rig,
  id text NOT NULL,
  part_id text NOT NULL,
  position integer NOT NULL,
  "on" boolean NOT NULL,
  settings jsonb NOT NULL CHECK (settings ? 'kind'),
  PRIMARY KEY (rig_id, id),
  FOREIGN KEY (rig_id, part_id) REFERENCES part
);
CREATE INDEX binding_by_part ON binding (rig_id, part_id);

-- Every edit ever made, as a diff with an exact inverse. Undoing and redoing are edits too, and say of which.
CREATE TABLE history (
  revision bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
  rig_id text NOT NULL REFERENCES rig,
  edit_id text NOT NULL UNIQUE,
  at timestamptz NOT NULL DEFAULT now(),
  who text NOT NULL,
  sentence text NOT NULL,
  kind text NOT NULL CHECK (kind IN ('edit', 'undo', 'redo')),
  of_revision bigint REFERENCES history,
  -- Of an edit: whether it stands, was undone, or was undone and then passed over by a new edit.
  state text NOT NULL CHECK (state IN ('done', 'undone', 'passed over')),
  diff jsonb NOT NULL,
  CHECK ((kind = 'edit') = (of_revision IS NULL))
);
CREATE INDEX history_by_rig ON history (rig_id, revision);
