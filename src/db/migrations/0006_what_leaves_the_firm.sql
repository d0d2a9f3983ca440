CREATE TABLE "certificate_test" (
	"firm_id" uuid NOT NULL,
	"certificate_id" uuid NOT NULL,
	"test_id" uuid NOT NULL,
	"place" integer NOT NULL,
	CONSTRAINT "certificate_test_firm_id_certificate_id_test_id_pk" PRIMARY KEY("firm_id","certificate_id","test_id")
);
--> statement-breakpoint
CREATE TABLE "firm_logo" (
	"firm_id" uuid NOT NULL,
	"hash" text NOT NULL,
	"picture" "bytea" NOT NULL,
	"added_at" timestamp with time zone NOT NULL,
	CONSTRAINT "firm_logo_firm_id_hash_pk" PRIMARY KEY("firm_id","hash")
);
--> statement-breakpoint
DROP INDEX "certificate_by_test";--> statement-breakpoint
ALTER TABLE "certificate" ADD CONSTRAINT "certificate_in_firm" UNIQUE("firm_id","id");--> statement-breakpoint
ALTER TABLE "firm" ADD COLUMN "address" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "firm" ADD COLUMN "registration" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "firm" ADD COLUMN "supplier_number" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "firm" ADD COLUMN "mail" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "firm" ADD COLUMN "zone" text DEFAULT 'UTC' NOT NULL;--> statement-breakpoint
ALTER TABLE "firm" ADD COLUMN "locale" text DEFAULT 'en-GB' NOT NULL;--> statement-breakpoint
ALTER TABLE "firm" ADD COLUMN "sheet" text DEFAULT 'A4' NOT NULL;--> statement-breakpoint
ALTER TABLE "firm" ADD COLUMN "countersign" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "firm" ADD COLUMN "logo" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "person" ADD COLUMN "licence" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "photo" ADD COLUMN "copy_hash" text;--> statement-breakpoint
ALTER TABLE "photo" ADD COLUMN "copy" "bytea";--> statement-breakpoint
-- Of what is there already the picture itself is the copy; rows that nobody may change are given it here once.
ALTER TABLE "photo" NO FORCE ROW LEVEL SECURITY;--> statement-breakpoint
ALTER TABLE "photo" DISABLE TRIGGER kept;--> statement-breakpoint
UPDATE "photo" SET "copy" = "picture", "copy_hash" = "stored_hash";--> statement-breakpoint
ALTER TABLE "photo" ENABLE TRIGGER kept;--> statement-breakpoint
ALTER TABLE "photo" FORCE ROW LEVEL SECURITY;--> statement-breakpoint
ALTER TABLE "photo" ALTER COLUMN "copy_hash" SET NOT NULL;--> statement-breakpoint
ALTER TABLE "photo" ALTER COLUMN "copy" SET NOT NULL;--> statement-breakpoint
ALTER TABLE "signature" ADD COLUMN "refused" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "signature" ADD COLUMN "remote" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "certificate_test" ADD CONSTRAINT "certificate_test_firm_id_certificate_id_certificate_firm_id_id_fk" FOREIGN KEY ("firm_id","certificate_id") REFERENCES "public"."certificate"("firm_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "certificate_test" ADD CONSTRAINT "certificate_test_firm_id_test_id_test_firm_id_id_fk" FOREIGN KEY ("firm_id","test_id") REFERENCES "public"."test"("firm_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "certificate_by_test" ON "certificate_test" USING btree ("firm_id","test_id");
--> statement-breakpoint
SELECT keep_to_firm(name) FROM unnest(ARRAY['certificate_test', 'firm_logo']) AS name;
--> statement-breakpoint
SELECT keep_forever(name) FROM unnest(ARRAY['certificate_test', 'firm_logo']) AS name;
--> statement-breakpoint
GRANT UPDATE (address, registration, supplier_number, mail, zone, locale, sheet, countersign, logo) ON public.firm TO vast_app;
--> statement-breakpoint
GRANT UPDATE (licence) ON public.person TO vast_app;
--> statement-breakpoint
-- Papers that are there already are of one test each.
ALTER TABLE certificate NO FORCE ROW LEVEL SECURITY;
--> statement-breakpoint
ALTER TABLE certificate_test NO FORCE ROW LEVEL SECURITY;
--> statement-breakpoint
INSERT INTO certificate_test (firm_id, certificate_id, test_id, place) SELECT firm_id, id, test_id, 1 FROM certificate;
--> statement-breakpoint
ALTER TABLE certificate FORCE ROW LEVEL SECURITY;
--> statement-breakpoint
ALTER TABLE certificate_test FORCE ROW LEVEL SECURITY;
--> statement-breakpoint
-- A test is sealed once any paper is of it.
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
  sealed := EXISTS (SELECT 1 FROM certificate_test WHERE certificate_test.test_id = owner.test_id);
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
