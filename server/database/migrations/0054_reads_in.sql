ALTER TABLE "accepted_text" DROP CONSTRAINT "accepted_text_sha256_text_wording_sha256_fk";
--> statement-breakpoint
ALTER TABLE "principal" ADD COLUMN "reads_in" text;