ALTER TABLE "event" ADD COLUMN "position" integer NOT NULL;--> statement-breakpoint
ALTER TABLE "event" ADD CONSTRAINT "event_place" UNIQUE("run_id","position");--> statement-breakpoint
DROP FUNCTION append_events(uuid, jsonb, timestamptz);
--> statement-breakpoint
-- Appends events to a run: one call, whose plans the connection keeps. It runs as whoever calls it, so the policies hold.
-- No row at all means that the run is not the firm's. Sealing takes the same lock, so an event is either in the seal or late;
-- and each gets its place in the run's log in the order in which it joins. What the server found of a clock is of no use to a seal.
CREATE FUNCTION append_events(wanted_run uuid, sent jsonb, received timestamptz)
RETURNS TABLE (stored integer, late integer) LANGUAGE plpgsql AS $$
DECLARE
  owner record;
  sealed boolean;
  placed integer;
BEGIN
  SELECT run.test_id, run.firm_id INTO owner FROM run WHERE run.id = wanted_run;
  IF NOT FOUND THEN
    RETURN;
  END IF;
  PERFORM pg_advisory_xact_lock(hashtextextended(owner.test_id::text, 0));
  -- Asked after the lock is held: whatever was sealed meanwhile is seen.
  sealed := EXISTS (SELECT 1 FROM certificate WHERE certificate.test_id = owner.test_id);
  SELECT coalesce(max(event.position), 0) INTO placed FROM event WHERE event.run_id = wanted_run;
  RETURN QUERY
  WITH fresh AS (
    SELECT DISTINCT ON (one ->> 'id') one, place FROM jsonb_array_elements(sent) WITH ORDINALITY AS list(one, place)
    WHERE NOT EXISTS (SELECT 1 FROM event WHERE event.run_id = wanted_run AND event.id = (one ->> 'id')::uuid)
      AND NOT (sealed AND one ->> 'type' = 'clock')
    ORDER BY one ->> 'id', place
  ), added AS (
    INSERT INTO event (run_id, id, firm_id, event, position, received_at, late)
    SELECT wanted_run, (one ->> 'id')::uuid, owner.firm_id, one, placed + row_number() OVER (ORDER BY place), received, sealed FROM fresh
    ON CONFLICT DO NOTHING
    RETURNING event.late AS was_late, event.event ->> 'type' AS kind
  )
  SELECT (count(*) FILTER (WHERE kind <> 'clock'))::integer, (count(*) FILTER (WHERE was_late))::integer FROM added;
END $$;
--> statement-breakpoint
REVOKE ALL ON FUNCTION append_events(uuid, jsonb, timestamptz) FROM PUBLIC;
--> statement-breakpoint
GRANT EXECUTE ON FUNCTION append_events(uuid, jsonb, timestamptz) TO vast_app;
