CREATE TABLE "clash" (
	"id" uuid PRIMARY KEY NOT NULL,
	"firm_id" uuid NOT NULL,
	"thing" text NOT NULL,
	"of" uuid NOT NULL,
	"field" text NOT NULL,
	"other" jsonb NOT NULL,
	"author" text NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"settled_by" text,
	"settled_at" timestamp with time zone,
	"changed_in" "xid8" DEFAULT pg_current_xact_id() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "component" (
	"id" uuid PRIMARY KEY NOT NULL,
	"firm_id" uuid NOT NULL,
	"system_id" uuid NOT NULL,
	"kind" text NOT NULL,
	"make" text NOT NULL,
	"model" text NOT NULL,
	"serial" text NOT NULL,
	"rating" text NOT NULL,
	"height" text NOT NULL,
	"fitted" text NOT NULL,
	"removed" text NOT NULL,
	"note" text NOT NULL,
	"created_at" timestamp with time zone NOT NULL,
	"version" integer DEFAULT 1 NOT NULL,
	"put_away" boolean DEFAULT false NOT NULL,
	"changed_in" "xid8" DEFAULT pg_current_xact_id() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "equipment" (
	"id" uuid PRIMARY KEY NOT NULL,
	"firm_id" uuid NOT NULL,
	"kind" text NOT NULL,
	"name" text NOT NULL,
	"size" text NOT NULL,
	"rating" text NOT NULL,
	"serial" text NOT NULL,
	"note" text NOT NULL,
	"created_at" timestamp with time zone NOT NULL,
	"version" integer DEFAULT 1 NOT NULL,
	"put_away" boolean DEFAULT false NOT NULL,
	"changed_in" "xid8" DEFAULT pg_current_xact_id() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "visit" (
	"id" uuid PRIMARY KEY NOT NULL,
	"firm_id" uuid NOT NULL,
	"site_id" uuid NOT NULL,
	"on_day" date NOT NULL,
	"people" jsonb NOT NULL,
	"tests" jsonb NOT NULL,
	"ordered" boolean NOT NULL,
	"begins" text NOT NULL,
	"note" text NOT NULL,
	"created_at" timestamp with time zone NOT NULL,
	"version" integer DEFAULT 1 NOT NULL,
	"put_away" boolean DEFAULT false NOT NULL,
	"changed_in" "xid8" DEFAULT pg_current_xact_id() NOT NULL
);
--> statement-breakpoint
ALTER TABLE "calibration" ADD COLUMN "changed_in" "xid8" DEFAULT pg_current_xact_id() NOT NULL;--> statement-breakpoint
ALTER TABLE "instrument" ADD COLUMN "version" integer DEFAULT 1 NOT NULL;--> statement-breakpoint
ALTER TABLE "instrument" ADD COLUMN "put_away" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "instrument" ADD COLUMN "changed_in" "xid8" DEFAULT pg_current_xact_id() NOT NULL;--> statement-breakpoint
ALTER TABLE "site" ADD COLUMN "access" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "site" ADD COLUMN "merged_into" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "site" ADD COLUMN "apart_from" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "site" ADD COLUMN "version" integer DEFAULT 1 NOT NULL;--> statement-breakpoint
ALTER TABLE "site" ADD COLUMN "put_away" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "site" ADD COLUMN "changed_in" "xid8" DEFAULT pg_current_xact_id() NOT NULL;--> statement-breakpoint
ALTER TABLE "standing" ADD COLUMN "changed_in" "xid8" DEFAULT pg_current_xact_id() NOT NULL;--> statement-breakpoint
ALTER TABLE "system" ADD COLUMN "version" integer DEFAULT 1 NOT NULL;--> statement-breakpoint
ALTER TABLE "system" ADD COLUMN "put_away" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "system" ADD COLUMN "changed_in" "xid8" DEFAULT pg_current_xact_id() NOT NULL;--> statement-breakpoint
ALTER TABLE "component" ADD CONSTRAINT "component_firm_id_system_id_system_firm_id_id_fk" FOREIGN KEY ("firm_id","system_id") REFERENCES "public"."system"("firm_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "visit" ADD CONSTRAINT "visit_firm_id_site_id_site_firm_id_id_fk" FOREIGN KEY ("firm_id","site_id") REFERENCES "public"."site"("firm_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "clash_of" ON "clash" USING btree ("firm_id","of");--> statement-breakpoint
CREATE INDEX "clash_open" ON "clash" USING btree ("firm_id") WHERE settled_at is null;--> statement-breakpoint
CREATE INDEX "component_by_system" ON "component" USING btree ("firm_id","system_id");--> statement-breakpoint
CREATE INDEX "visit_by_site" ON "visit" USING btree ("firm_id","site_id");--> statement-breakpoint
CREATE INDEX "visit_by_day" ON "visit" USING btree ("firm_id","on_day");--> statement-breakpoint
CREATE INDEX "system_by_site" ON "system" USING btree ("firm_id","site_id");
--> statement-breakpoint
-- The owner, too, is kept to one firm's rows; for this it looks at all of them.
ALTER TABLE public.system NO FORCE ROW LEVEL SECURITY;
--> statement-breakpoint
-- What was written of a component in one line becomes a row: its serial number where one is named, and the rest as what it is.
INSERT INTO component (id, firm_id, system_id, kind, make, model, serial, rating, height, fitted, removed, note, created_at)
SELECT gen_random_uuid(), s.firm_id, s.id, left(regexp_replace(line, ',?\s*serial\s.*$', ''), 80), '', '',
  left(coalesce(substring(line from 'serial\s+(.*)$'), ''), 80), '', '', '', '', '', s.created_at
FROM system s, jsonb_array_elements_text(s.components) line;
--> statement-breakpoint
ALTER TABLE public.system FORCE ROW LEVEL SECURITY;
--> statement-breakpoint
SELECT keep_to_firm(name) FROM unnest(ARRAY['component', 'equipment', 'visit', 'clash']) AS name;
--> statement-breakpoint
GRANT UPDATE ON public.component, public.equipment, public.visit TO vast_app;
--> statement-breakpoint
GRANT UPDATE (settled_by, settled_at) ON public.clash TO vast_app;
--> statement-breakpoint
-- Which transaction last changed a row. One that is still under way when a difference is read has a number that is asked for again
-- the next time, so nothing is missed, however long it takes.
CREATE FUNCTION stamp_change() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  NEW.changed_in := pg_current_xact_id();
  RETURN NEW;
END $$;
--> statement-breakpoint
DO $$
DECLARE
  name text;
BEGIN
  FOREACH name IN ARRAY ARRAY['site', 'system', 'component', 'instrument', 'equipment', 'visit', 'clash', 'standing'] LOOP
    EXECUTE format('CREATE TRIGGER stamped BEFORE INSERT OR UPDATE ON public.%I FOR EACH ROW EXECUTE FUNCTION stamp_change()', name);
  END LOOP;
  -- Nobody changes a calibration; only its beginning is stamped.
  CREATE TRIGGER stamped BEFORE INSERT ON public.calibration FOR EACH ROW EXECUTE FUNCTION stamp_change();
END $$;
--> statement-breakpoint
-- Names this database in this cluster: transaction numbers of one mean nothing in another.
CREATE FUNCTION register_epoch() RETURNS text LANGUAGE sql STABLE SECURITY DEFINER SET search_path = pg_catalog AS $$
  SELECT (SELECT system_identifier FROM pg_control_system())::text || '-' || (SELECT oid FROM pg_database WHERE datname = current_database())::text
$$;
--> statement-breakpoint
REVOKE ALL ON FUNCTION register_epoch() FROM public;
--> statement-breakpoint
GRANT EXECUTE ON FUNCTION register_epoch() TO vast_app;
