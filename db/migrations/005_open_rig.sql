-- Which rig is open is a setting, not the lowest name.
CREATE TABLE store_setting (
  name text PRIMARY KEY,
  value text NOT NULL
);

INSERT INTO store_setting (name, value)
SELECT 'open rig', id FROM rig ORDER BY id LIMIT 1;
