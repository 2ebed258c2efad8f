-- Boards whose model the catalogue does not know carry its description. A channel may hold the leads of one shared line,
-- as a pin may.

ALTER TABLE board ADD COLUMN own jsonb;

ALTER TABLE lead
  DROP CONSTRAINT lead_channel_once,
  ADD CONSTRAINT lead_channel_once EXCLUDE USING btree (rig_id WITH =, expander_id WITH =, channel WITH =)
    WHERE (NOT shared) DEFERRABLE INITIALLY DEFERRED;
