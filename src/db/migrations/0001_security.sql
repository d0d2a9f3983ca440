-- Roles are made by the preparation step (they belong to the cluster, not to one database):
--   vast_app   the application: rows of the firm named in this transaction, and nothing else
--   vast_auth  accounts and sessions only
GRANT USAGE ON SCHEMA public TO vast_app;
--> statement-breakpoint
GRANT USAGE ON SCHEMA auth TO vast_auth;
--> statement-breakpoint
GRANT SELECT, INSERT, UPDATE, DELETE ON ALL TABLES IN SCHEMA auth TO vast_auth;
--> statement-breakpoint
-- The installation's mark is the owner's; the application may look.
GRANT USAGE ON SCHEMA installation TO vast_app, vast_auth;
--> statement-breakpoint
GRANT SELECT ON installation.mark TO vast_app, vast_auth;
--> statement-breakpoint
-- A table of the firm's: rows of the firm that the transaction names, for reading and writing. Later tables call it too.
CREATE FUNCTION keep_to_firm(wanted text) RETURNS void LANGUAGE plpgsql AS $$
DECLARE
  firm_column text := CASE WHEN wanted = 'firm' THEN 'id' ELSE 'firm_id' END;
BEGIN
  EXECUTE format('ALTER TABLE public.%I ENABLE ROW LEVEL SECURITY', wanted);
  EXECUTE format('ALTER TABLE public.%I FORCE ROW LEVEL SECURITY', wanted);
  EXECUTE format(
    'CREATE POLICY own_firm ON public.%I TO vast_app USING (%I = nullif(current_setting(''app.firm_id'', true), '''')::uuid) WITH CHECK (%I = nullif(current_setting(''app.firm_id'', true), '''')::uuid)',
    wanted, firm_column, firm_column);
  EXECUTE format('GRANT SELECT, INSERT ON public.%I TO vast_app', wanted);
END $$;
--> statement-breakpoint
SELECT keep_to_firm(tablename::text) FROM pg_tables WHERE schemaname = 'public';
--> statement-breakpoint
-- What may change after it was written; events, photos, calibrations, rules, signatures and certificates may not.
GRANT UPDATE ON public.site, public.system, public.instrument TO vast_app;
--> statement-breakpoint
GRANT UPDATE (name, emergency_number, last_certificate, last_seal) ON public.firm TO vast_app;
--> statement-breakpoint
GRANT UPDATE (name, role, put_away_at) ON public.person TO vast_app;
--> statement-breakpoint
GRANT UPDATE (retired_at, revoked_at) ON public.seal_key TO vast_app;
--> statement-breakpoint
GRANT UPDATE (answer), DELETE ON public.command TO vast_app;
--> statement-breakpoint
GRANT UPDATE ON public.standing TO vast_app;
--> statement-breakpoint
GRANT DELETE ON public.photo_piece TO vast_app;
--> statement-breakpoint
GRANT USAGE ON SEQUENCE public.standing_changed TO vast_app;
--> statement-breakpoint
-- The owner, too, is kept from changing what is sealed or logged by accident.
CREATE FUNCTION refuse_change() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  RAISE EXCEPTION '% is append-only: a correction is a new row', TG_TABLE_NAME USING ERRCODE = 'restrict_violation';
END $$;
--> statement-breakpoint
CREATE FUNCTION keep_forever(wanted text) RETURNS void LANGUAGE plpgsql AS $$
BEGIN
  EXECUTE format('CREATE TRIGGER kept BEFORE UPDATE OR DELETE ON public.%I FOR EACH ROW EXECUTE FUNCTION refuse_change()', wanted);
  EXECUTE format('CREATE TRIGGER kept_whole BEFORE TRUNCATE ON public.%I FOR EACH STATEMENT EXECUTE FUNCTION refuse_change()', wanted);
END $$;
--> statement-breakpoint
SELECT keep_forever(name) FROM unnest(ARRAY['certificate', 'event', 'run', 'house_rule', 'own_procedure', 'calibration', 'signature', 'photo', 'quarantine']) AS name;
--> statement-breakpoint
-- A key goes out of use and out of trust, and never back.
CREATE FUNCTION refuse_key_change() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  IF NEW.id <> OLD.id OR NEW.firm_id <> OLD.firm_id OR NEW.public_key <> OLD.public_key OR NEW.private_key <> OLD.private_key
     OR NEW.created_at <> OLD.created_at
     OR (OLD.retired_at IS NOT NULL AND NEW.retired_at IS DISTINCT FROM OLD.retired_at)
     OR (OLD.revoked_at IS NOT NULL AND NEW.revoked_at IS DISTINCT FROM OLD.revoked_at) THEN
    RAISE EXCEPTION 'a sealing key is retired and revoked once, and not otherwise changed' USING ERRCODE = 'restrict_violation';
  END IF;
  RETURN NEW;
END $$;
--> statement-breakpoint
CREATE TRIGGER kept BEFORE UPDATE ON public.seal_key FOR EACH ROW EXECUTE FUNCTION refuse_key_change();
--> statement-breakpoint
CREATE TRIGGER kept_still BEFORE DELETE ON public.seal_key FOR EACH ROW EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER kept_whole BEFORE TRUNCATE ON public.seal_key FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
-- The public check page: facts printed on the certificate, for whoever holds its 128-bit code.
CREATE FUNCTION check_certificate(code text)
RETURNS TABLE (number text, verdict text, issued_at timestamptz, firm_name text, hash text, corrected_by text, public_key text, revoked boolean, simulated boolean)
LANGUAGE sql STABLE SECURITY DEFINER SET search_path = public, pg_temp AS $$
  SELECT c.number, c.verdict, c.issued_at, f.name, c.hash,
         (SELECT later.number FROM certificate later WHERE later.corrects = c.id ORDER BY later.issued_at DESC LIMIT 1),
         k.public_key, k.revoked_at IS NOT NULL, c.simulated
  FROM certificate c
  JOIN firm f ON f.id = c.firm_id
  JOIN seal_key k ON k.firm_id = c.firm_id AND k.id = c.key_id
  WHERE c.check_code = code
$$;
--> statement-breakpoint
-- What became of a sealed record since, by its hash: for whoever holds the file.
CREATE FUNCTION check_record(wanted text)
RETURNS TABLE (number text, corrected_by text, check_code text)
LANGUAGE sql STABLE SECURITY DEFINER SET search_path = public, pg_temp AS $$
  SELECT c.number, (SELECT later.number FROM certificate later WHERE later.corrects = c.id ORDER BY later.issued_at DESC LIMIT 1), c.check_code
  FROM certificate c WHERE c.hash = wanted
$$;
--> statement-breakpoint
-- Public keys of all signers, so that anyone's file can be checked.
CREATE FUNCTION known_signers() RETURNS TABLE (public_key text, revoked boolean)
LANGUAGE sql STABLE SECURITY DEFINER SET search_path = public, pg_temp AS $$
  SELECT k.public_key, k.revoked_at IS NOT NULL FROM seal_key k
$$;
--> statement-breakpoint
REVOKE ALL ON FUNCTION check_certificate(text), check_record(text), known_signers(), keep_to_firm(text), keep_forever(text) FROM PUBLIC;
--> statement-breakpoint
GRANT EXECUTE ON FUNCTION check_certificate(text), check_record(text), known_signers() TO vast_app;
--> statement-breakpoint
-- Those functions run as the owner, whom the forced policies bind as well: it may read these three tables.
DO $$
DECLARE name text;
BEGIN
  FOREACH name IN ARRAY ARRAY['certificate', 'firm', 'seal_key'] LOOP
    EXECUTE format('CREATE POLICY public_check ON public.%I FOR SELECT TO CURRENT_USER USING (true)', name);
  END LOOP;
END $$;
--> statement-breakpoint
-- Appends events to a run: one call, whose plans the connection keeps. It runs as whoever calls it, so the policies hold.
-- No row at all means that the run is not the firm's. Sealing takes the same lock, so an event is either in the seal or late;
-- and each gets its place in the run's log in the order in which it joins. What the server found is of no use to a test that is sealed.
-- An id that is there already changes nothing; where its content is another, that is answered. `placed` is how many events there
-- were before, `last_id` the last of them, `joined` how many joined, the server's own among them. Past `most` nothing more is taken.
CREATE FUNCTION append_events(wanted_run uuid, sent jsonb, received timestamptz, most integer)
RETURNS TABLE (stored integer, late integer, differs text[], is_full boolean, placed integer, last_id uuid, test_id uuid, joined integer) LANGUAGE plpgsql AS $$
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
    SELECT one, place, there.event AS before
    FROM jsonb_array_elements(sent) WITH ORDINALITY AS list(one, place)
    LEFT JOIN event there ON there.run_id = wanted_run AND there.id = (one ->> 'id')::uuid
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
         (SELECT coalesce(array_agg(one ->> 'id'), '{}') FROM sending WHERE before IS NOT NULL AND before <> one),
         before_these + jsonb_array_length(sent) > most, before_these,
         (SELECT last.id FROM event last WHERE last.run_id = wanted_run AND last.position = before_these), owner.test_id, (SELECT count(*) FROM added)::integer;
END $$;
--> statement-breakpoint
REVOKE ALL ON FUNCTION append_events(uuid, jsonb, timestamptz, integer) FROM PUBLIC;
--> statement-breakpoint
GRANT EXECUTE ON FUNCTION append_events(uuid, jsonb, timestamptz, integer) TO vast_app;
--> statement-breakpoint
-- What several runs have to append, in one call: a list of {run, sent}. Taken by their tests, in one order everywhere, so that two
-- such calls never wait for each other crosswise. A run that is not the firm's has no row.
CREATE FUNCTION append_many(batch jsonb, received timestamptz, most integer)
RETURNS TABLE (place integer, stored integer, late integer, differs text[], is_full boolean, placed integer, last_id uuid, test_id uuid, joined integer)
LANGUAGE plpgsql AS $$
DECLARE
  part record;
BEGIN
  FOR part IN
    SELECT listed.place::integer AS at, run.id AS run, listed.one -> 'sent' AS sent
    FROM jsonb_array_elements(batch) WITH ORDINALITY AS listed(one, place)
    JOIN run ON run.id = (listed.one ->> 'run')::uuid
    ORDER BY run.test_id, listed.place
  LOOP
    RETURN QUERY SELECT part.at, done.* FROM append_events(part.run, part.sent, received, most) done;
  END LOOP;
END $$;
--> statement-breakpoint
REVOKE ALL ON FUNCTION append_many(jsonb, timestamptz, integer) FROM PUBLIC;
--> statement-breakpoint
GRANT EXECUTE ON FUNCTION append_many(jsonb, timestamptz, integer) TO vast_app;
--> statement-breakpoint
-- Its rows are written again and again; with room on their page no index has to follow.
ALTER TABLE public.standing SET (fillfactor = 60, autovacuum_vacuum_scale_factor = 0.05);
--> statement-breakpoint
-- What a device asks every few seconds, in one call: how far a run's log has come, and what its test has become. It names its firm
-- itself, for this one statement, and the policies hold as ever.
CREATE FUNCTION run_news(wanted_firm uuid, wanted_run uuid)
RETURNS TABLE (last integer, attempts integer, sealed boolean) LANGUAGE plpgsql AS $$
BEGIN
  PERFORM set_config('app.firm_id', wanted_firm::text, true);
  RETURN QUERY
  SELECT (SELECT max(event.position) FROM event WHERE event.run_id = run.id), standing.attempts, standing.certificate IS NOT NULL
  FROM run JOIN standing ON standing.firm_id = run.firm_id AND standing.test_id = run.test_id WHERE run.id = wanted_run;
END $$;
--> statement-breakpoint
REVOKE ALL ON FUNCTION run_news(uuid, uuid) FROM PUBLIC;
--> statement-breakpoint
GRANT EXECUTE ON FUNCTION run_news(uuid, uuid) TO vast_app;
