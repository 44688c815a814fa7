ALTER TYPE "public"."log_act" ADD VALUE 'resend-letter';--> statement-breakpoint
ALTER TABLE "letter" ADD COLUMN "tries" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "letter" ADD COLUMN "not_before" timestamp with time zone;