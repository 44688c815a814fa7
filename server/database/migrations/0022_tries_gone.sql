DROP TABLE "sign_in_failure" CASCADE;--> statement-breakpoint
ALTER TABLE "session" ADD COLUMN "device_hash" text;