CREATE TABLE "api_token" (
	"id" uuid PRIMARY KEY NOT NULL,
	"firm_id" uuid NOT NULL,
	"name" text NOT NULL,
	"token_hash" text NOT NULL,
	"made_by" text NOT NULL,
	"made_at" timestamp with time zone NOT NULL,
	"expires_at" timestamp with time zone NOT NULL,
	"used_at" timestamp with time zone,
	"ended_at" timestamp with time zone,
	CONSTRAINT "api_token_token_hash_unique" UNIQUE("token_hash")
);
--> statement-breakpoint
CREATE TABLE "exchange" (
	"id" uuid PRIMARY KEY NOT NULL,
	"firm_id" uuid NOT NULL,
	"kind" text NOT NULL,
	"author" text NOT NULL,
	"made_at" timestamp with time zone NOT NULL,
	"state" text NOT NULL,
	"doing" text DEFAULT '' NOT NULL,
	"done" integer DEFAULT 0 NOT NULL,
	"total" integer DEFAULT 0 NOT NULL,
	"size" bigint DEFAULT 0 NOT NULL,
	"said" jsonb DEFAULT '[]'::jsonb NOT NULL,
	"seen_at" timestamp with time zone NOT NULL,
	"ended_at" timestamp with time zone
);
--> statement-breakpoint
ALTER TABLE "seal_key" ADD COLUMN "imported_at" timestamp with time zone;--> statement-breakpoint
CREATE INDEX "api_token_made" ON "api_token" USING btree ("firm_id","made_at");--> statement-breakpoint
CREATE INDEX "exchange_newest" ON "exchange" USING btree ("firm_id","made_at");--> statement-breakpoint
SELECT keep_to_firm(name) FROM unnest(ARRAY['exchange', 'api_token']) AS name;
--> statement-breakpoint
GRANT UPDATE (state, doing, done, total, size, said, seen_at, ended_at) ON public.exchange TO vast_app;
--> statement-breakpoint
GRANT UPDATE (used_at, ended_at) ON public.api_token TO vast_app;
--> statement-breakpoint
-- Whose token it is, for a program that has no account.
CREATE FUNCTION find_api_token(wanted text) RETURNS TABLE (firm_id uuid, id uuid, name text, made_by text, expires_at timestamptz, ended_at timestamptz)
LANGUAGE sql STABLE SECURITY DEFINER SET search_path = public, pg_temp AS $$
  SELECT t.firm_id, t.id, t.name, t.made_by, t.expires_at, t.ended_at FROM api_token t WHERE t.token_hash = wanted
$$;
--> statement-breakpoint
-- A key that came in from elsewhere proves nothing of a paper that did not come with it: whoever brings a key in could else seal
-- whatever they like with its private part.
DROP FUNCTION known_signers();
--> statement-breakpoint
CREATE FUNCTION known_signers(of_paper text) RETURNS TABLE (public_key text, revoked boolean)
LANGUAGE sql STABLE SECURITY DEFINER SET search_path = public, pg_temp AS $$
  SELECT k.public_key, k.revoked_at IS NOT NULL FROM seal_key k
  WHERE k.imported_at IS NULL OR EXISTS (SELECT 1 FROM certificate c WHERE c.firm_id = k.firm_id AND c.key_id = k.id AND c.hash = of_paper)
$$;
--> statement-breakpoint
REVOKE ALL ON FUNCTION find_api_token(text), known_signers(text) FROM PUBLIC;
--> statement-breakpoint
GRANT EXECUTE ON FUNCTION find_api_token(text), known_signers(text) TO vast_app;
--> statement-breakpoint
DO $$
BEGIN
  EXECUTE 'CREATE POLICY looked_up ON public.api_token FOR SELECT TO CURRENT_USER USING (true)';
END $$;
--> statement-breakpoint
-- A paper that came in from elsewhere says so: when it was sealed, and by whom, this installation knows only from its seal.
DROP FUNCTION check_certificate(text);
--> statement-breakpoint
CREATE FUNCTION check_certificate(code text)
RETURNS TABLE (number text, verdict text, issued_at timestamptz, firm_name text, hash text, corrected_by text, public_key text, revoked boolean, simulated boolean, withdrawn_at timestamptz, withdrawn_because text, imported_at timestamptz)
LANGUAGE sql STABLE SECURITY DEFINER SET search_path = public, pg_temp AS $$
  SELECT c.number, c.verdict, c.issued_at, f.name, c.hash,
         (SELECT later.number FROM certificate later WHERE later.corrects = c.id ORDER BY later.issued_at DESC LIMIT 1),
         k.public_key, k.revoked_at IS NOT NULL, c.simulated, w.at, w.reason, k.imported_at
  FROM certificate c
  JOIN firm f ON f.id = c.firm_id
  JOIN seal_key k ON k.firm_id = c.firm_id AND k.id = c.key_id
  LEFT JOIN withdrawal w ON w.firm_id = c.firm_id AND w.certificate_id = c.id
  WHERE c.check_code = code
$$;
--> statement-breakpoint
DROP FUNCTION check_record(text);
--> statement-breakpoint
CREATE FUNCTION check_record(wanted text)
RETURNS TABLE (number text, corrected_by text, check_code text, withdrawn_at timestamptz, withdrawn_because text, imported_at timestamptz)
LANGUAGE sql STABLE SECURITY DEFINER SET search_path = public, pg_temp AS $$
  SELECT c.number, (SELECT later.number FROM certificate later WHERE later.corrects = c.id ORDER BY later.issued_at DESC LIMIT 1), c.check_code, w.at, w.reason, k.imported_at
  FROM certificate c
  JOIN seal_key k ON k.firm_id = c.firm_id AND k.id = c.key_id
  LEFT JOIN withdrawal w ON w.firm_id = c.firm_id AND w.certificate_id = c.id
  WHERE c.hash = wanted
$$;
--> statement-breakpoint
REVOKE ALL ON FUNCTION check_certificate(text), check_record(text) FROM PUBLIC;
--> statement-breakpoint
GRANT EXECUTE ON FUNCTION check_certificate(text), check_record(text) TO vast_app;
