-- Appends events to a run: one call, whose plans the connection keeps. It runs as whoever calls it, so the policies hold.
-- No row at all means that the run is not the firm's. Sealing takes the same lock, so an event is either in the seal or late.
CREATE FUNCTION append_events(wanted_run uuid, sent jsonb, received timestamptz)
RETURNS TABLE (stored integer, late integer) LANGUAGE plpgsql AS $$
DECLARE
  owner record;
  sealed boolean;
BEGIN
  SELECT run.test_id, run.firm_id INTO owner FROM run WHERE run.id = wanted_run;
  IF NOT FOUND THEN
    RETURN;
  END IF;
  PERFORM pg_advisory_xact_lock(hashtextextended(owner.test_id::text, 0));
  -- Asked after the lock is held: whatever was sealed meanwhile is seen.
  sealed := EXISTS (SELECT 1 FROM certificate WHERE certificate.test_id = owner.test_id);
  RETURN QUERY
  WITH added AS (
    INSERT INTO event (run_id, id, firm_id, event, received_at, late)
    SELECT wanted_run, (one ->> 'id')::uuid, owner.firm_id, one, received, sealed FROM jsonb_array_elements(sent) AS one
    ON CONFLICT DO NOTHING
    RETURNING event.late AS was_late
  )
  SELECT count(*)::integer, (count(*) FILTER (WHERE was_late))::integer FROM added;
END $$;
--> statement-breakpoint
REVOKE ALL ON FUNCTION append_events(uuid, jsonb, timestamptz) FROM PUBLIC;
--> statement-breakpoint
GRANT EXECUTE ON FUNCTION append_events(uuid, jsonb, timestamptz) TO vast_app;
