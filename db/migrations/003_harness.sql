-- Expanders with lines of their own, leads that share a pin, ribbons, and how supplies are joined.

ALTER TABLE board
  ADD COLUMN supply_id text,
  ADD FOREIGN KEY (rig_id, supply_id) REFERENCES supply;

ALTER TABLE expander
  ADD COLUMN chips integer NOT NULL DEFAULT 1 CHECK (chips >= 1),
  ADD COLUMN jumpers integer NOT NULL DEFAULT 0 CHECK (jumpers >= 0),
  ADD COLUMN position integer NOT NULL DEFAULT 1;

ALTER TABLE supply
  ADD COLUMN ground_joined boolean NOT NULL DEFAULT true,
  ADD COLUMN plus_joined_to text;

ALTER TABLE lead
  ALTER COLUMN part_id DROP NOT NULL,
  ADD COLUMN from_expander_id text,
  ADD COLUMN shared boolean NOT NULL DEFAULT false,
  ADD COLUMN locked boolean NOT NULL DEFAULT false,
  ADD COLUMN ribbon text CHECK (ribbon <> ''),
  ADD FOREIGN KEY (rig_id, from_expander_id) REFERENCES expander,
  ADD CONSTRAINT lead_one_beginning CHECK ((part_id IS NULL) <> (from_expander_id IS NULL)),
  ADD CONSTRAINT lead_line_once UNIQUE (rig_id, from_expander_id, terminal) DEFERRABLE INITIALLY DEFERRED,
  DROP CONSTRAINT lead_pin_once,
  -- A pin holds one lead, unless its leads are of one shared line. Deferred, so that two can exchange their pins.
  ADD CONSTRAINT lead_pin_once EXCLUDE USING btree (rig_id WITH =, board_id WITH =, pin WITH =)
    WHERE (NOT shared) DEFERRABLE INITIALLY DEFERRED;
