CREATE TABLE "own_procedure" (
	"id" uuid PRIMARY KEY NOT NULL,
	"firm_id" uuid NOT NULL,
	"variant_id" uuid NOT NULL,
	"version" integer NOT NULL,
	"base" text NOT NULL,
	"title" text NOT NULL,
	"reference" text NOT NULL,
	"figures" jsonb NOT NULL,
	"withdrawn" boolean DEFAULT false NOT NULL,
	"published_by" text NOT NULL,
	"published_at" timestamp with time zone NOT NULL,
	CONSTRAINT "own_procedure_version" UNIQUE("firm_id","variant_id","version")
);
--> statement-breakpoint
ALTER TABLE "house_rule" DROP CONSTRAINT "house_rule_once";--> statement-breakpoint
ALTER TABLE "house_rule" ADD COLUMN "version" integer DEFAULT 1 NOT NULL;--> statement-breakpoint
ALTER TABLE "house_rule" ADD COLUMN "lifted" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "house_rule" ADD COLUMN "set_by" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "house_rule" ADD COLUMN "set_at" timestamp with time zone DEFAULT now() NOT NULL;--> statement-breakpoint
ALTER TABLE "house_rule" ADD CONSTRAINT "house_rule_version" UNIQUE("firm_id","procedure","figure","version");--> statement-breakpoint
ALTER TABLE "own_procedure" ENABLE ROW LEVEL SECURITY;
--> statement-breakpoint
ALTER TABLE "own_procedure" FORCE ROW LEVEL SECURITY;
--> statement-breakpoint
CREATE POLICY own_firm ON "own_procedure" TO vast_app
  USING (firm_id = nullif(current_setting('app.firm_id', true), '')::uuid)
  WITH CHECK (firm_id = nullif(current_setting('app.firm_id', true), '')::uuid);
--> statement-breakpoint
GRANT SELECT, INSERT ON "own_procedure" TO vast_app;
--> statement-breakpoint
-- Rules are kept by version: what a test ran under can always be read again.
REVOKE UPDATE, DELETE ON "house_rule" FROM vast_app;
--> statement-breakpoint
CREATE TRIGGER house_rule_kept BEFORE UPDATE OR DELETE ON "house_rule" FOR EACH ROW EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER own_procedure_kept BEFORE UPDATE OR DELETE ON "own_procedure" FOR EACH ROW EXECUTE FUNCTION refuse_change();
