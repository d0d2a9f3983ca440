CREATE SCHEMA "auth";
--> statement-breakpoint
CREATE SCHEMA "installation";
--> statement-breakpoint
CREATE SEQUENCE "public"."standing_changed" INCREMENT BY 1 MINVALUE 1 MAXVALUE 9223372036854775807 START WITH 1 CACHE 1;--> statement-breakpoint
CREATE TABLE "auth"."account" (
	"id" text PRIMARY KEY NOT NULL,
	"account_id" text NOT NULL,
	"provider_id" text NOT NULL,
	"user_id" text NOT NULL,
	"access_token" text,
	"refresh_token" text,
	"id_token" text,
	"access_token_expires_at" timestamp with time zone,
	"refresh_token_expires_at" timestamp with time zone,
	"scope" text,
	"password" text,
	"created_at" timestamp with time zone NOT NULL,
	"updated_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "calibration" (
	"id" uuid PRIMARY KEY NOT NULL,
	"firm_id" uuid NOT NULL,
	"instrument_id" uuid NOT NULL,
	"done_on" date NOT NULL,
	"due_on" date NOT NULL,
	"reference" text NOT NULL,
	"recorded_by" text NOT NULL,
	"recorded_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "certificate" (
	"id" uuid PRIMARY KEY NOT NULL,
	"firm_id" uuid NOT NULL,
	"test_id" uuid NOT NULL,
	"number" text NOT NULL,
	"check_code" text NOT NULL,
	"verdict" text NOT NULL,
	"record" text NOT NULL,
	"hash" text NOT NULL,
	"previous" text NOT NULL,
	"corrects" uuid,
	"site" text NOT NULL,
	"system" text NOT NULL,
	"simulated" boolean NOT NULL,
	"key_id" uuid NOT NULL,
	"issued_at" timestamp with time zone NOT NULL,
	CONSTRAINT "certificate_check_code_unique" UNIQUE("check_code"),
	CONSTRAINT "certificate_number" UNIQUE("firm_id","number"),
	CONSTRAINT "certificate_chain" UNIQUE("firm_id","previous")
);
--> statement-breakpoint
CREATE TABLE "command" (
	"firm_id" uuid NOT NULL,
	"id" uuid NOT NULL,
	"author" text NOT NULL,
	"content" text NOT NULL,
	"answer" jsonb,
	"at" timestamp with time zone NOT NULL,
	CONSTRAINT "command_firm_id_id_pk" PRIMARY KEY("firm_id","id")
);
--> statement-breakpoint
CREATE TABLE "event" (
	"run_id" uuid NOT NULL,
	"id" uuid NOT NULL,
	"firm_id" uuid NOT NULL,
	"event" jsonb NOT NULL,
	"position" integer NOT NULL,
	"received_at" timestamp with time zone NOT NULL,
	"late" boolean DEFAULT false NOT NULL,
	CONSTRAINT "event_run_id_id_pk" PRIMARY KEY("run_id","id"),
	CONSTRAINT "event_place" UNIQUE("run_id","position")
);
--> statement-breakpoint
CREATE TABLE "firm" (
	"id" uuid PRIMARY KEY NOT NULL,
	"name" text NOT NULL,
	"emergency_number" text NOT NULL,
	"last_certificate" integer DEFAULT 0 NOT NULL,
	"last_seal" text DEFAULT '0000000000000000000000000000000000000000000000000000000000000000' NOT NULL
);
--> statement-breakpoint
CREATE TABLE "house_rule" (
	"id" uuid PRIMARY KEY NOT NULL,
	"firm_id" uuid NOT NULL,
	"procedure" text NOT NULL,
	"figure" text NOT NULL,
	"value" text NOT NULL,
	"reference" text NOT NULL,
	"version" integer DEFAULT 1 NOT NULL,
	"lifted" boolean DEFAULT false NOT NULL,
	"set_by" text DEFAULT '' NOT NULL,
	"set_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "house_rule_version" UNIQUE("firm_id","procedure","figure","version")
);
--> statement-breakpoint
CREATE TABLE "instrument" (
	"id" uuid PRIMARY KEY NOT NULL,
	"firm_id" uuid NOT NULL,
	"name" text NOT NULL,
	"kind" text NOT NULL,
	"unit" text NOT NULL,
	"readability" text NOT NULL,
	"range_low" text NOT NULL,
	"range_high" text NOT NULL,
	"serial" text NOT NULL,
	"calibration_needed" boolean NOT NULL,
	"simulated" boolean DEFAULT false NOT NULL,
	"created_at" timestamp with time zone NOT NULL,
	CONSTRAINT "instrument_in_firm" UNIQUE("firm_id","id")
);
--> statement-breakpoint
CREATE TABLE "auth"."known_device" (
	"id" text NOT NULL,
	"user_id" text NOT NULL,
	"name" text NOT NULL,
	"created_at" timestamp with time zone NOT NULL,
	"seen_at" timestamp with time zone NOT NULL,
	"revoked_at" timestamp with time zone,
	CONSTRAINT "known_device_id_user_id_pk" PRIMARY KEY("id","user_id")
);
--> statement-breakpoint
CREATE TABLE "installation"."mark" (
	"one" boolean PRIMARY KEY DEFAULT true NOT NULL,
	"loaded" text,
	"secrets" text NOT NULL,
	"made_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
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
CREATE TABLE "person" (
	"firm_id" uuid NOT NULL,
	"id" text NOT NULL,
	"name" text NOT NULL,
	"role" text NOT NULL,
	"put_away_at" timestamp with time zone,
	CONSTRAINT "person_firm_id_id_pk" PRIMARY KEY("firm_id","id")
);
--> statement-breakpoint
CREATE TABLE "photo" (
	"firm_id" uuid NOT NULL,
	"hash" text NOT NULL,
	"run_id" uuid NOT NULL,
	"stored_hash" text NOT NULL,
	"picture" "bytea" NOT NULL,
	"taken_at" timestamp with time zone NOT NULL,
	"received_at" timestamp with time zone NOT NULL,
	CONSTRAINT "photo_firm_id_run_id_hash_pk" PRIMARY KEY("firm_id","run_id","hash")
);
--> statement-breakpoint
CREATE TABLE "photo_piece" (
	"firm_id" uuid NOT NULL,
	"run_id" uuid NOT NULL,
	"hash" text NOT NULL,
	"at" integer NOT NULL,
	"piece" "bytea" NOT NULL,
	"received_at" timestamp with time zone NOT NULL,
	CONSTRAINT "photo_piece_firm_id_run_id_hash_at_pk" PRIMARY KEY("firm_id","run_id","hash","at")
);
--> statement-breakpoint
CREATE TABLE "quarantine" (
	"id" uuid PRIMARY KEY NOT NULL,
	"firm_id" uuid NOT NULL,
	"sent" "bytea" NOT NULL,
	"author" text NOT NULL,
	"run_id" text NOT NULL,
	"why" text NOT NULL,
	"received_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "run" (
	"id" uuid PRIMARY KEY NOT NULL,
	"firm_id" uuid NOT NULL,
	"test_id" uuid NOT NULL,
	"number" integer NOT NULL,
	"plan" jsonb NOT NULL,
	"unread" text,
	"procedure" text GENERATED ALWAYS AS (plan #>> '{procedure,id}') STORED,
	"created_at" timestamp with time zone NOT NULL,
	CONSTRAINT "run_in_firm" UNIQUE("firm_id","id"),
	CONSTRAINT "run_number" UNIQUE("test_id","number")
);
--> statement-breakpoint
CREATE TABLE "seal_key" (
	"id" uuid PRIMARY KEY NOT NULL,
	"firm_id" uuid NOT NULL,
	"public_key" text NOT NULL,
	"private_key" text NOT NULL,
	"created_at" timestamp with time zone NOT NULL,
	"retired_at" timestamp with time zone,
	"revoked_at" timestamp with time zone
);
--> statement-breakpoint
CREATE TABLE "auth"."session" (
	"id" text PRIMARY KEY NOT NULL,
	"expires_at" timestamp with time zone NOT NULL,
	"token" text NOT NULL,
	"created_at" timestamp with time zone NOT NULL,
	"updated_at" timestamp with time zone NOT NULL,
	"ip_address" text,
	"user_agent" text,
	"user_id" text NOT NULL,
	"device_id" text,
	CONSTRAINT "session_token_unique" UNIQUE("token")
);
--> statement-breakpoint
CREATE TABLE "auth"."sign_in_attempt" (
	"id" uuid PRIMARY KEY NOT NULL,
	"email" text NOT NULL,
	"lane" text NOT NULL,
	"client" text NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"may_from" timestamp with time zone NOT NULL,
	"state" text NOT NULL
);
--> statement-breakpoint
CREATE TABLE "signature" (
	"id" uuid PRIMARY KEY NOT NULL,
	"firm_id" uuid NOT NULL,
	"test_id" uuid NOT NULL,
	"role" text NOT NULL,
	"name" text NOT NULL,
	"absent" text,
	"strokes" jsonb NOT NULL,
	"judgement_hash" text NOT NULL,
	"signed_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "site" (
	"id" uuid PRIMARY KEY NOT NULL,
	"firm_id" uuid NOT NULL,
	"name" text NOT NULL,
	"address" text NOT NULL,
	"occupier" text NOT NULL,
	"created_at" timestamp with time zone NOT NULL,
	CONSTRAINT "site_in_firm" UNIQUE("firm_id","id")
);
--> statement-breakpoint
CREATE TABLE "standing" (
	"firm_id" uuid NOT NULL,
	"test_id" uuid NOT NULL,
	"system_id" uuid NOT NULL,
	"author" text NOT NULL,
	"created_at" timestamp with time zone NOT NULL,
	"run_id" uuid,
	"attempts" integer NOT NULL,
	"procedure" text,
	"verdict" text NOT NULL,
	"simulated" boolean NOT NULL,
	"phase" text NOT NULL,
	"due_at" timestamp with time zone,
	"points" jsonb NOT NULL,
	"forecast" jsonb,
	"alarm" text,
	"rig" jsonb,
	"start" jsonb,
	"certificate" text,
	"changed" bigint DEFAULT nextval('standing_changed') NOT NULL,
	CONSTRAINT "standing_firm_id_test_id_pk" PRIMARY KEY("firm_id","test_id")
);
--> statement-breakpoint
CREATE TABLE "system" (
	"id" uuid PRIMARY KEY NOT NULL,
	"firm_id" uuid NOT NULL,
	"site_id" uuid NOT NULL,
	"name" text NOT NULL,
	"kind" text NOT NULL,
	"pipes" text NOT NULL,
	"stated_volume" text NOT NULL,
	"answers" jsonb NOT NULL,
	"sections" jsonb NOT NULL,
	"components" jsonb NOT NULL,
	"created_at" timestamp with time zone NOT NULL,
	CONSTRAINT "system_in_firm" UNIQUE("firm_id","id")
);
--> statement-breakpoint
CREATE TABLE "test" (
	"id" uuid PRIMARY KEY NOT NULL,
	"firm_id" uuid NOT NULL,
	"system_id" uuid NOT NULL,
	"details" jsonb NOT NULL,
	"author" text NOT NULL,
	"created_at" timestamp with time zone NOT NULL,
	CONSTRAINT "test_in_firm" UNIQUE("firm_id","id")
);
--> statement-breakpoint
CREATE TABLE "auth"."user" (
	"id" text PRIMARY KEY NOT NULL,
	"name" text NOT NULL,
	"email" text NOT NULL,
	"email_verified" boolean DEFAULT false NOT NULL,
	"image" text,
	"firm_id" uuid NOT NULL,
	"role" text NOT NULL,
	"created_at" timestamp with time zone NOT NULL,
	"updated_at" timestamp with time zone NOT NULL,
	"put_away_at" timestamp with time zone,
	CONSTRAINT "user_email_unique" UNIQUE("email")
);
--> statement-breakpoint
CREATE TABLE "auth"."verification" (
	"id" text PRIMARY KEY NOT NULL,
	"identifier" text NOT NULL,
	"value" text NOT NULL,
	"expires_at" timestamp with time zone NOT NULL,
	"created_at" timestamp with time zone,
	"updated_at" timestamp with time zone
);
--> statement-breakpoint
ALTER TABLE "auth"."account" ADD CONSTRAINT "account_user_id_user_id_fk" FOREIGN KEY ("user_id") REFERENCES "auth"."user"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "calibration" ADD CONSTRAINT "calibration_firm_id_instrument_id_instrument_firm_id_id_fk" FOREIGN KEY ("firm_id","instrument_id") REFERENCES "public"."instrument"("firm_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "certificate" ADD CONSTRAINT "certificate_firm_id_test_id_test_firm_id_id_fk" FOREIGN KEY ("firm_id","test_id") REFERENCES "public"."test"("firm_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "event" ADD CONSTRAINT "event_firm_id_run_id_run_firm_id_id_fk" FOREIGN KEY ("firm_id","run_id") REFERENCES "public"."run"("firm_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "auth"."known_device" ADD CONSTRAINT "known_device_user_id_user_id_fk" FOREIGN KEY ("user_id") REFERENCES "auth"."user"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "photo" ADD CONSTRAINT "photo_firm_id_run_id_run_firm_id_id_fk" FOREIGN KEY ("firm_id","run_id") REFERENCES "public"."run"("firm_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "photo_piece" ADD CONSTRAINT "photo_piece_firm_id_run_id_run_firm_id_id_fk" FOREIGN KEY ("firm_id","run_id") REFERENCES "public"."run"("firm_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "run" ADD CONSTRAINT "run_firm_id_test_id_test_firm_id_id_fk" FOREIGN KEY ("firm_id","test_id") REFERENCES "public"."test"("firm_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "auth"."session" ADD CONSTRAINT "session_user_id_user_id_fk" FOREIGN KEY ("user_id") REFERENCES "auth"."user"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "signature" ADD CONSTRAINT "signature_firm_id_test_id_test_firm_id_id_fk" FOREIGN KEY ("firm_id","test_id") REFERENCES "public"."test"("firm_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "standing" ADD CONSTRAINT "standing_firm_id_test_id_test_firm_id_id_fk" FOREIGN KEY ("firm_id","test_id") REFERENCES "public"."test"("firm_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "system" ADD CONSTRAINT "system_firm_id_site_id_site_firm_id_id_fk" FOREIGN KEY ("firm_id","site_id") REFERENCES "public"."site"("firm_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "test" ADD CONSTRAINT "test_firm_id_system_id_system_firm_id_id_fk" FOREIGN KEY ("firm_id","system_id") REFERENCES "public"."system"("firm_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "test" ADD CONSTRAINT "test_firm_id_author_person_firm_id_id_fk" FOREIGN KEY ("firm_id","author") REFERENCES "public"."person"("firm_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "certificate_by_test" ON "certificate" USING btree ("firm_id","test_id");--> statement-breakpoint
CREATE INDEX "command_at" ON "command" USING btree ("firm_id","at");--> statement-breakpoint
CREATE INDEX "run_by_procedure" ON "run" USING btree ("firm_id","procedure","created_at");--> statement-breakpoint
CREATE UNIQUE INDEX "seal_key_live" ON "seal_key" USING btree ("firm_id") WHERE retired_at is null;--> statement-breakpoint
CREATE INDEX "sign_in_attempt_lane" ON "auth"."sign_in_attempt" USING btree ("email","lane","at");--> statement-breakpoint
CREATE INDEX "standing_newest" ON "standing" USING btree ("firm_id","created_at");--> statement-breakpoint
CREATE INDEX "standing_by_system" ON "standing" USING btree ("firm_id","system_id","created_at");--> statement-breakpoint
CREATE INDEX "standing_by_run" ON "standing" USING btree ("firm_id","run_id");--> statement-breakpoint
CREATE INDEX "standing_open" ON "standing" USING btree ("firm_id","created_at") WHERE verdict = 'in progress' and certificate is null;--> statement-breakpoint
CREATE INDEX "standing_unsealed" ON "standing" USING btree ("firm_id","created_at") WHERE verdict <> 'in progress' and certificate is null;--> statement-breakpoint
CREATE INDEX "standing_alarm" ON "standing" USING btree ("firm_id") WHERE alarm is not null;--> statement-breakpoint
CREATE INDEX "standing_rig" ON "standing" USING btree ("firm_id","created_at") WHERE rig is not null;--> statement-breakpoint
CREATE INDEX "test_by_system" ON "test" USING btree ("firm_id","system_id","created_at");