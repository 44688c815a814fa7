ALTER TYPE "public"."log_act" ADD VALUE 'ask-for-fee' BEFORE 'sign-in';--> statement-breakpoint
ALTER TABLE "application" ADD COLUMN "fee_moment" timestamp with time zone;