-- Screens with drawn instruments: pages of them, what lies on a page (or, without one, on all), and their pictures.

CREATE TABLE screen (
  rig_id text NOT NULL REFERENCES rig,
  id text NOT NULL,
  name text NOT NULL CHECK (name <> ''),
  position integer NOT NULL,
  width_px integer NOT NULL CHECK (width_px > 0),
  height_px integer NOT NULL CHECK (height_px > 0),
  settings jsonb NOT NULL,
  PRIMARY KEY (rig_id, id),
  -- Devices ask for it by its name.
  CONSTRAINT screen_name_once UNIQUE (rig_id, name) DEFERRABLE INITIALLY DEFERRED
);

CREATE TABLE page (
  rig_id text NOT NULL REFERENCES rig,
  id text NOT NULL,
  screen_id text NOT NULL,
  name text NOT NULL CHECK (name <> ''),
  position integer NOT NULL,
  PRIMARY KEY (rig_id, id),
  FOREIGN KEY (rig_id, screen_id) REFERENCES screen,
  CONSTRAINT page_name_once UNIQUE (rig_id, screen_id, name) DEFERRABLE INITIALLY DEFERRED
);

CREATE TABLE picture (
  rig_id text NOT NULL REFERENCES rig,
  id text NOT NULL,
  screen_id text NOT NULL,
  name text NOT NULL CHECK (name <> ''),
  settings jsonb NOT NULL CHECK (settings ? 'data'),
  PRIMARY KEY (rig_id, id),
  FOREIGN KEY (rig_id, screen_id) REFERENCES screen
);

CREATE TABLE element (
  rig_id text NOT NULL REFERENCES rig,
  id text NOT NULL,
  screen_id text NOT NULL,
  page_id text,
  name text NOT NULL CHECK (name <> ''),
  position integer NOT NULL,
  x double precision NOT NULL,
  y double precision NOT NULL,
  width double precision NOT NULL CHECK (width >= 0),
  height double precision NOT NULL CHECK (height >= 0),
  angle double precision NOT NULL,
  settings jsonb NOT NULL CHECK (settings ? 'kind'),
  PRIMARY KEY (rig_id, id),
  FOREIGN KEY (rig_id, screen_id) REFERENCES screen,
  FOREIGN KEY (rig_id, page_id) REFERENCES page
);
CREATE INDEX element_by_screen ON element (rig_id, screen_id);
