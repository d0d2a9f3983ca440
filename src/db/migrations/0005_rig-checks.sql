ALTER TABLE "run" ADD COLUMN "procedure" text GENERATED ALWAYS AS (plan #>> '{procedure,id}') STORED;--> statement-breakpoint
CREATE INDEX "run_by_procedure" ON "run" USING btree ("firm_id","procedure","created_at");--> statement-breakpoint
-- A paper holds a list of tests; one that was simulated makes it practice.
CREATE OR REPLACE FUNCTION check_certificate(code text)
RETURNS TABLE (number text, verdict text, issued_at timestamptz, firm_name text, hash text, corrected_by text, public_key text, revoked boolean, simulated boolean)
LANGUAGE sql STABLE SECURITY DEFINER SET search_path = public, pg_temp AS $$
  SELECT c.number, c.verdict, c.issued_at, f.name, c.hash,
         (SELECT later.number FROM certificate later WHERE later.corrects = c.id ORDER BY later.issued_at DESC LIMIT 1),
         k.public_key, k.revoked_at IS NOT NULL,
         coalesce((SELECT bool_or((one -> 'attempts' -> -1 -> 'judgement' ->> 'simulated')::boolean)
                   FROM jsonb_array_elements(c.record::jsonb -> 'tests') one), false)
  FROM certificate c
  JOIN firm f ON f.id = c.firm_id
  JOIN seal_key k ON k.firm_id = c.firm_id AND k.id::text = (c.record::jsonb -> 'seal' ->> 'keyId')
  WHERE c.check_code = code
$$;
