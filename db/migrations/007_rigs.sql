-- Several rigs in one database: when each was begun, and whether it is put aside.
ALTER TABLE rig
  ADD COLUMN begun_at timestamptz NOT NULL DEFAULT now(),
  ADD COLUMN removed_at timestamptz;
