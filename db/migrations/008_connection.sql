-- What Clavik speaks with: a row for each simulator, telemetry and board, stand-ins among them.

CREATE TABLE connection (
  rig_id text NOT NULL REFERENCES rig,
  id text NOT NULL,
  name text NOT NULL CHECK (name <> ''),
  position integer NOT NULL,
  "on" boolean NOT NULL,
  settings jsonb NOT NULL CHECK (settings ? 'kind'),
  PRIMARY KEY (rig_id, id),
  CONSTRAINT connection_name_once UNIQUE (rig_id, name) DEFERRABLE INITIALLY DEFERRED
);

-- Until here every rig spoke with the simulated craft, and every board with an identity was a simulated one.
INSERT INTO connection (rig_id, id, name, position, "on", settings)
SELECT id, 'craft', 'Simulated craft', 0, true, '{"kind":"simulated craft","seed":12,"prefix":""}'::jsonb FROM rig;

INSERT INTO connection (rig_id, id, name, position, "on", settings)
SELECT rig_id, 'sim-' || identity, 'Simulated ' || name || CASE WHEN n > 1 THEN ' ' || n ELSE '' END, at, true,
       jsonb_build_object('kind', 'simulated board', 'identity', identity, 'model', CASE model
         WHEN 'atmega2560' THEN 'ATmega2560 board' WHEN 'atmega2560-small' THEN 'ATmega2560 board, small'
         WHEN 'atmega328p' THEN 'ATmega328P board' WHEN 'atmega328p-small' THEN 'ATmega328P board, small'
         WHEN 'atmega32u4' THEN 'ATmega32U4 board' WHEN 'rp2040' THEN 'RP2040 board'
         ELSE coalesce(own ->> 'name', model) END, 'closed', '[]'::jsonb, 'wipers', '[]'::jsonb)
FROM (
  SELECT DISTINCT ON (rig_id, identity) rig_id, identity, name, model, own,
         row_number() OVER (PARTITION BY rig_id ORDER BY position, id)::int AS at,
         row_number() OVER (PARTITION BY rig_id, name ORDER BY position, id) AS n
  FROM board WHERE identity IS NOT NULL ORDER BY rig_id, identity, position, id
) b;
