ALTER TABLE "certificate" DROP CONSTRAINT "certificate_firm_id_test_id_test_firm_id_id_fk";
--> statement-breakpoint
ALTER TABLE "certificate" DROP COLUMN "test_id";