-- What the builder says of the variables and events of a craft: a name, a unit and a description of one's own, for what its
-- simulator does not describe, or names badly. Kept for the craft, whichever rig is open.

CREATE TABLE craft_word (
  craft text NOT NULL CHECK (craft <> ''),
  name text NOT NULL CHECK (name <> ''),
  called text NOT NULL DEFAULT '',
  unit text,
  description text NOT NULL DEFAULT '',
  PRIMARY KEY (craft, name)
);
