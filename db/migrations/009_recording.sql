-- Recordings of what an engine was told. A recording belongs to the rig it was made with; its sources, names and
-- blocks are compressed already, so the database is not to try again.

CREATE TABLE recording (
  id text PRIMARY KEY,
  rig_id text NOT NULL REFERENCES rig,
  name text NOT NULL CHECK (name <> ''),
  begun_at timestamptz NOT NULL DEFAULT now(),
  state text NOT NULL DEFAULT 'going on' CHECK (state IN ('going on', 'whole', 'cut short')),
  -- Why it ended where the builder did not end it.
  why text,
  craft text NOT NULL,
  variables integer NOT NULL,
  head bytea NOT NULL,
  -- Whether it was armed at any time while it was made.
  armed boolean NOT NULL DEFAULT false,
  length_us bigint NOT NULL DEFAULT 0,
  -- What of it counts, as it was trimmed.
  from_us bigint NOT NULL DEFAULT 0,
  until_us bigint,
  bytes bigint NOT NULL DEFAULT 0,
  marks jsonb NOT NULL DEFAULT '[]',
  -- What the panel showed when it was kept as an example, and after which edit that was.
  expected bytea,
  expected_revision bigint
);

CREATE TABLE recording_block (
  recording_id text NOT NULL REFERENCES recording ON DELETE CASCADE,
  n integer NOT NULL,
  from_us bigint NOT NULL,
  until_us bigint NOT NULL,
  bytes bytea NOT NULL,
  PRIMARY KEY (recording_id, n)
);

ALTER TABLE recording ALTER COLUMN head SET STORAGE EXTERNAL, ALTER COLUMN expected SET STORAGE EXTERNAL;
ALTER TABLE recording_block ALTER COLUMN bytes SET STORAGE EXTERNAL;
