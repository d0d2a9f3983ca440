-- Roles are made by the preparation step (they belong to the cluster, not to one database):
--   vast_app   the application: rows of the firm named in this transaction, and nothing else
--   vast_auth  accounts and sessions only
GRANT USAGE ON SCHEMA public TO vast_app;
--> statement-breakpoint
GRANT USAGE ON SCHEMA auth TO vast_auth;
--> statement-breakpoint
GRANT SELECT, INSERT, UPDATE, DELETE ON ALL TABLES IN SCHEMA auth TO vast_auth;
--> statement-breakpoint
GRANT USAGE ON ALL SEQUENCES IN SCHEMA auth TO vast_auth;
--> statement-breakpoint
DO $$
DECLARE
  name text;
  firm_column text;
BEGIN
  FOR name IN SELECT tablename FROM pg_tables WHERE schemaname = 'public' LOOP
    firm_column := CASE WHEN name = 'firm' THEN 'id' ELSE 'firm_id' END;
    EXECUTE format('ALTER TABLE public.%I ENABLE ROW LEVEL SECURITY', name);
    EXECUTE format('ALTER TABLE public.%I FORCE ROW LEVEL SECURITY', name);
    EXECUTE format(
      'CREATE POLICY own_firm ON public.%I TO vast_app USING (%I = nullif(current_setting(''app.firm_id'', true), '''')::uuid) WITH CHECK (%I = nullif(current_setting(''app.firm_id'', true), '''')::uuid)',
      name, firm_column, firm_column);
    EXECUTE format('GRANT SELECT, INSERT ON public.%I TO vast_app', name);
  END LOOP;
END $$;
--> statement-breakpoint
-- What may change after it was written; events, photos, calibrations, signatures and certificates may not.
GRANT UPDATE ON public.site, public.system, public.instrument, public.house_rule TO vast_app;
--> statement-breakpoint
GRANT UPDATE (name, emergency_number, last_certificate, last_seal) ON public.firm TO vast_app;
--> statement-breakpoint
GRANT UPDATE (retired_at, revoked_at) ON public.seal_key TO vast_app;
--> statement-breakpoint
GRANT DELETE ON public.house_rule TO vast_app;
--> statement-breakpoint
-- The owner, too, is kept from changing what is sealed or logged by accident.
CREATE FUNCTION refuse_change() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  RAISE EXCEPTION '% is append-only: a correction is a new row', TG_TABLE_NAME USING ERRCODE = 'restrict_violation';
END $$;
--> statement-breakpoint
CREATE TRIGGER certificate_sealed BEFORE UPDATE OR DELETE ON public.certificate FOR EACH ROW EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER event_logged BEFORE UPDATE OR DELETE ON public.event FOR EACH ROW EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER run_frozen BEFORE UPDATE OR DELETE ON public.run FOR EACH ROW EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
-- The public check page: facts printed on the certificate, for whoever holds its 128-bit code.
CREATE FUNCTION check_certificate(code text)
RETURNS TABLE (number text, verdict text, issued_at timestamptz, firm_name text, hash text, corrected_by text, public_key text, revoked boolean, simulated boolean)
LANGUAGE sql STABLE SECURITY DEFINER SET search_path = public, pg_temp AS $$
  SELECT c.number, c.verdict, c.issued_at, f.name, c.hash,
         (SELECT later.number FROM certificate later WHERE later.corrects = c.id ORDER BY later.issued_at DESC LIMIT 1),
         k.public_key, k.revoked_at IS NOT NULL,
         coalesce((c.record::jsonb -> 'attempts' -> -1 -> 'judgement' ->> 'simulated')::boolean, false)
  FROM certificate c
  JOIN firm f ON f.id = c.firm_id
  JOIN seal_key k ON k.firm_id = c.firm_id AND k.id::text = (c.record::jsonb -> 'seal' ->> 'keyId')
  WHERE c.check_code = code
$$;
--> statement-breakpoint
-- Public keys of all signers, so that anyone's file can be checked.
CREATE FUNCTION known_signers() RETURNS TABLE (public_key text, revoked boolean)
LANGUAGE sql STABLE SECURITY DEFINER SET search_path = public, pg_temp AS $$
  SELECT k.public_key, k.revoked_at IS NOT NULL FROM seal_key k
$$;
--> statement-breakpoint
REVOKE ALL ON FUNCTION check_certificate(text), known_signers() FROM PUBLIC;
--> statement-breakpoint
GRANT EXECUTE ON FUNCTION check_certificate(text), known_signers() TO vast_app;
--> statement-breakpoint
-- Those two functions run as the owner, whom the forced policies bind as well: it may read these three tables.
DO $$
DECLARE name text;
BEGIN
  FOREACH name IN ARRAY ARRAY['certificate', 'firm', 'seal_key'] LOOP
    EXECUTE format('CREATE POLICY public_check ON public.%I FOR SELECT TO CURRENT_USER USING (true)', name);
  END LOOP;
END $$;
