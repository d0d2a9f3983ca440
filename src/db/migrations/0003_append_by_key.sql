-- As before, but each id is looked up by its key: a join read the whole run, or the whole table, for every event that came. One plan
-- does for all: made anew at every call it took longer than the work.
CREATE OR REPLACE FUNCTION append_events(wanted_run uuid, sent jsonb, received timestamptz, most integer)
RETURNS TABLE (stored integer, late integer, differs text[], is_full boolean, placed integer, last_id uuid, test_id uuid, joined integer) LANGUAGE plpgsql SET plan_cache_mode = force_generic_plan AS $$
DECLARE
  owner record;
  sealed boolean;
  before_these integer;
BEGIN
  SELECT run.test_id, run.firm_id INTO owner FROM run WHERE run.id = wanted_run;
  IF NOT FOUND THEN
    RETURN;
  END IF;
  PERFORM pg_advisory_xact_lock(hashtextextended(owner.test_id::text, 0));
  -- Asked after the lock is held: whatever was sealed meanwhile is seen.
  sealed := EXISTS (SELECT 1 FROM certificate WHERE certificate.test_id = owner.test_id);
  SELECT coalesce(max(event.position), 0) INTO before_these FROM event WHERE event.run_id = wanted_run;
  RETURN QUERY
  WITH sending AS (
    SELECT one, place, (SELECT there.event FROM event there WHERE there.run_id = wanted_run AND there.id = (one ->> 'id')::uuid) AS before
    FROM jsonb_array_elements(sent) WITH ORDINALITY AS list(one, place)
  ), fresh AS (
    SELECT DISTINCT ON (one ->> 'id') one, place FROM sending
    WHERE before IS NULL AND NOT (sealed AND one ->> 'device' = 'server') AND before_these + jsonb_array_length(sent) <= most
    ORDER BY one ->> 'id', place
  ), added AS (
    INSERT INTO event (run_id, id, firm_id, event, position, received_at, late)
    SELECT wanted_run, (one ->> 'id')::uuid, owner.firm_id, one, before_these + row_number() OVER (ORDER BY place), received, sealed FROM fresh
    ON CONFLICT DO NOTHING
    RETURNING event.late AS was_late, event.event ->> 'device' AS device
  )
  SELECT (SELECT count(*) FILTER (WHERE device <> 'server') FROM added)::integer,
         (SELECT count(*) FILTER (WHERE was_late) FROM added)::integer,
         (SELECT coalesce(array_agg(one ->> 'id'), '{}') FROM sending WHERE before IS NOT NULL AND before - 'skew' <> one - 'skew'),
         before_these + jsonb_array_length(sent) > most, before_these,
         (SELECT last.id FROM event last WHERE last.run_id = wanted_run AND last.position = before_these), owner.test_id, (SELECT count(*) FROM added)::integer;
END $$;
