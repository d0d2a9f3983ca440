CREATE TABLE "withdrawal" (
	"certificate_id" uuid NOT NULL,
	"firm_id" uuid NOT NULL,
	"reason" text NOT NULL,
	"author" text NOT NULL,
	"at" timestamp with time zone NOT NULL,
	CONSTRAINT "withdrawal_firm_id_certificate_id_pk" PRIMARY KEY("firm_id","certificate_id")
);
--> statement-breakpoint
ALTER TABLE "withdrawal" ADD CONSTRAINT "withdrawal_firm_id_certificate_id_certificate_firm_id_id_fk" FOREIGN KEY ("firm_id","certificate_id") REFERENCES "public"."certificate"("firm_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
SELECT keep_to_firm('withdrawal');
--> statement-breakpoint
SELECT keep_forever('withdrawal');
--> statement-breakpoint
-- The check page looks at it, too.
DO $$
BEGIN
  EXECUTE 'CREATE POLICY looked_up ON public.withdrawal FOR SELECT TO CURRENT_USER USING (true)';
END $$;
--> statement-breakpoint
DROP FUNCTION check_certificate(text);
--> statement-breakpoint
CREATE FUNCTION check_certificate(code text)
RETURNS TABLE (number text, verdict text, issued_at timestamptz, firm_name text, hash text, corrected_by text, public_key text, revoked boolean, simulated boolean, withdrawn_at timestamptz, withdrawn_because text)
LANGUAGE sql STABLE SECURITY DEFINER SET search_path = public, pg_temp AS $$
  SELECT c.number, c.verdict, c.issued_at, f.name, c.hash,
         (SELECT later.number FROM certificate later WHERE later.corrects = c.id ORDER BY later.issued_at DESC LIMIT 1),
         k.public_key, k.revoked_at IS NOT NULL, c.simulated, w.at, w.reason
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
RETURNS TABLE (number text, corrected_by text, check_code text, withdrawn_at timestamptz, withdrawn_because text)
LANGUAGE sql STABLE SECURITY DEFINER SET search_path = public, pg_temp AS $$
  SELECT c.number, (SELECT later.number FROM certificate later WHERE later.corrects = c.id ORDER BY later.issued_at DESC LIMIT 1), c.check_code, w.at, w.reason
  FROM certificate c
  LEFT JOIN withdrawal w ON w.firm_id = c.firm_id AND w.certificate_id = c.id
  WHERE c.hash = wanted
$$;
--> statement-breakpoint
REVOKE ALL ON FUNCTION check_certificate(text), check_record(text) FROM PUBLIC;
--> statement-breakpoint
GRANT EXECUTE ON FUNCTION check_certificate(text), check_record(text) TO vast_app;
