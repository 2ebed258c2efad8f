-- What the builder notes about things to be bought: a line for each of the parts list that has a note, a link or a price.

CREATE TABLE purchase (
  rig_id text NOT NULL REFERENCES rig,
  id text NOT NULL,
  what text NOT NULL CHECK (what <> ''),
  value text NOT NULL DEFAULT '',
  note text NOT NULL DEFAULT '',
  link text NOT NULL DEFAULT '',
  price double precision CHECK (price >= 0),
  PRIMARY KEY (rig_id, id),
  CONSTRAINT purchase_once UNIQUE (rig_id, what, value) DEFERRABLE INITIALLY DEFERRED
);
