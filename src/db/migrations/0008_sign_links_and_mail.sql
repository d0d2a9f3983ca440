CREATE TABLE "message" (
	"id" uuid PRIMARY KEY NOT NULL,
	"firm_id" uuid NOT NULL,
	"kind" text NOT NULL,
	"recipient" text NOT NULL,
	"subject" text NOT NULL,
	"body" text NOT NULL,
	"certificate_id" uuid,
	"test_id" uuid,
	"author" text NOT NULL,
	"created_at" timestamp with time zone NOT NULL,
	"state" text DEFAULT 'waiting' NOT NULL,
	"tries" integer DEFAULT 0 NOT NULL,
	"next_at" timestamp with time zone NOT NULL,
	"said" text DEFAULT '' NOT NULL,
	"settled_at" timestamp with time zone
);
--> statement-breakpoint
CREATE TABLE "sign_link" (
	"id" uuid PRIMARY KEY NOT NULL,
	"firm_id" uuid NOT NULL,
	"token_hash" text NOT NULL,
	"tests" jsonb NOT NULL,
	"name" text NOT NULL,
	"made_by" text NOT NULL,
	"made_at" timestamp with time zone NOT NULL,
	"expires_at" timestamp with time zone NOT NULL,
	"used_at" timestamp with time zone,
	CONSTRAINT "sign_link_token_hash_unique" UNIQUE("token_hash")
);
--> statement-breakpoint
CREATE INDEX "message_newest" ON "message" USING btree ("firm_id","created_at");--> statement-breakpoint
CREATE INDEX "message_of_certificate" ON "message" USING btree ("firm_id","certificate_id");--> statement-breakpoint
CREATE INDEX "message_due" ON "message" USING btree ("next_at") WHERE state = 'waiting';--> statement-breakpoint
CREATE INDEX "sign_link_made" ON "sign_link" USING btree ("firm_id","made_at");--> statement-breakpoint
SELECT keep_to_firm(name) FROM unnest(ARRAY['sign_link', 'message']) AS name;
--> statement-breakpoint
GRANT UPDATE (used_at) ON public.sign_link TO vast_app;
--> statement-breakpoint
GRANT UPDATE (state, tries, next_at, said, settled_at) ON public.message TO vast_app;
--> statement-breakpoint
-- Whose link it is, for whoever holds it; whose mail is due, for the worker that sends; whose mail a notice speaks of.
CREATE FUNCTION find_sign_link(wanted text) RETURNS TABLE (firm_id uuid, id uuid)
LANGUAGE sql STABLE SECURITY DEFINER SET search_path = public, pg_temp AS $$
  SELECT l.firm_id, l.id FROM sign_link l WHERE l.token_hash = wanted
$$;
--> statement-breakpoint
CREATE FUNCTION due_messages(until timestamptz, most integer) RETURNS TABLE (firm_id uuid, id uuid)
LANGUAGE sql STABLE SECURITY DEFINER SET search_path = public, pg_temp AS $$
  SELECT m.firm_id, m.id FROM message m WHERE m.state = 'waiting' AND m.next_at <= until ORDER BY m.next_at LIMIT most
$$;
--> statement-breakpoint
CREATE FUNCTION firm_of_message(wanted uuid) RETURNS TABLE (firm_id uuid)
LANGUAGE sql STABLE SECURITY DEFINER SET search_path = public, pg_temp AS $$
  SELECT m.firm_id FROM message m WHERE m.id = wanted
$$;
--> statement-breakpoint
REVOKE ALL ON FUNCTION find_sign_link(text), due_messages(timestamptz, integer), firm_of_message(uuid) FROM PUBLIC;
--> statement-breakpoint
GRANT EXECUTE ON FUNCTION find_sign_link(text), due_messages(timestamptz, integer), firm_of_message(uuid) TO vast_app;
--> statement-breakpoint
-- They run as the owner, whom the forced policies bind as well.
DO $$
DECLARE name text;
BEGIN
  FOREACH name IN ARRAY ARRAY['sign_link', 'message'] LOOP
    EXECUTE format('CREATE POLICY looked_up ON public.%I FOR SELECT TO CURRENT_USER USING (true)', name);
  END LOOP;
END $$;
