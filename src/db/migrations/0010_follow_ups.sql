CREATE TABLE "calendar_feed" (
	"firm_id" uuid NOT NULL,
	"person" text NOT NULL,
	"token_hash" text NOT NULL,
	"made_at" timestamp with time zone NOT NULL,
	CONSTRAINT "calendar_feed_firm_id_person_pk" PRIMARY KEY("firm_id","person"),
	CONSTRAINT "calendar_feed_token_hash_unique" UNIQUE("token_hash")
);
--> statement-breakpoint
CREATE TABLE "follow_up" (
	"id" uuid PRIMARY KEY NOT NULL,
	"firm_id" uuid NOT NULL,
	"kind" text NOT NULL,
	"site_id" uuid NOT NULL,
	"system_id" uuid NOT NULL,
	"test_id" uuid,
	"due" date NOT NULL,
	"person" text NOT NULL,
	"what" text NOT NULL,
	"author" text NOT NULL,
	"created_at" timestamp with time zone NOT NULL,
	"ended_at" timestamp with time zone,
	"ended_by" text DEFAULT '' NOT NULL,
	"outcome" text DEFAULT '' NOT NULL,
	"reminded_on" date,
	"tag" text,
	CONSTRAINT "follow_up_tag_unique" UNIQUE("tag")
);
--> statement-breakpoint
ALTER TABLE "follow_up" ADD CONSTRAINT "follow_up_firm_id_site_id_site_firm_id_id_fk" FOREIGN KEY ("firm_id","site_id") REFERENCES "public"."site"("firm_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "follow_up" ADD CONSTRAINT "follow_up_firm_id_system_id_system_firm_id_id_fk" FOREIGN KEY ("firm_id","system_id") REFERENCES "public"."system"("firm_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "follow_up" ADD CONSTRAINT "follow_up_firm_id_test_id_test_firm_id_id_fk" FOREIGN KEY ("firm_id","test_id") REFERENCES "public"."test"("firm_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "follow_up_open" ON "follow_up" USING btree ("firm_id","due") WHERE ended_at is null;--> statement-breakpoint
CREATE INDEX "follow_up_of_system" ON "follow_up" USING btree ("firm_id","system_id");--> statement-breakpoint
SELECT keep_to_firm(name) FROM unnest(ARRAY['follow_up', 'calendar_feed']) AS name;
--> statement-breakpoint
GRANT UPDATE (due, person, what, ended_at, ended_by, outcome, reminded_on) ON public.follow_up TO vast_app;
--> statement-breakpoint
GRANT UPDATE (token_hash, made_at) ON public.calendar_feed TO vast_app;
--> statement-breakpoint
-- Whose tag it is, and whose calendar, for whoever holds them; what is due and was not reminded of today, for the worker.
CREATE FUNCTION find_tag(wanted text) RETURNS TABLE (firm_id uuid, id uuid)
LANGUAGE sql STABLE SECURITY DEFINER SET search_path = public, pg_temp AS $$
  SELECT f.firm_id, f.id FROM follow_up f WHERE f.tag = wanted
$$;
--> statement-breakpoint
CREATE FUNCTION find_feed(wanted text) RETURNS TABLE (firm_id uuid, person text)
LANGUAGE sql STABLE SECURITY DEFINER SET search_path = public, pg_temp AS $$
  SELECT c.firm_id, c.person FROM calendar_feed c WHERE c.token_hash = wanted
$$;
--> statement-breakpoint
CREATE FUNCTION due_follow_ups(today date, most integer) RETURNS TABLE (firm_id uuid, id uuid)
LANGUAGE sql STABLE SECURITY DEFINER SET search_path = public, pg_temp AS $$
  SELECT f.firm_id, f.id FROM follow_up f
  WHERE f.ended_at IS NULL AND f.due <= today AND f.person <> '' AND f.reminded_on IS DISTINCT FROM today AND (f.reminded_on IS NULL OR f.reminded_on <= today - 7)
  ORDER BY f.due LIMIT most
$$;
--> statement-breakpoint
REVOKE ALL ON FUNCTION find_tag(text), find_feed(text), due_follow_ups(date, integer) FROM PUBLIC;
--> statement-breakpoint
GRANT EXECUTE ON FUNCTION find_tag(text), find_feed(text), due_follow_ups(date, integer) TO vast_app;
--> statement-breakpoint
-- They run as the owner, whom the forced policies bind as well.
DO $$
DECLARE name text;
BEGIN
  FOREACH name IN ARRAY ARRAY['follow_up', 'calendar_feed'] LOOP
    EXECUTE format('CREATE POLICY looked_up ON public.%I FOR SELECT TO CURRENT_USER USING (true)', name);
  END LOOP;
END $$;
