ALTER TYPE "public"."log_act" ADD VALUE 'waive-fee' BEFORE 'sign-in';--> statement-breakpoint
ALTER TYPE "public"."log_act" ADD VALUE 'write-off-fee' BEFORE 'sign-in';--> statement-breakpoint
ALTER TYPE "public"."log_act" ADD VALUE 'claim-fee-again' BEFORE 'sign-in';--> statement-breakpoint
ALTER TYPE "public"."log_act" ADD VALUE 'payment-charged-back' BEFORE 'sign-in';--> statement-breakpoint
ALTER TABLE "application" ADD COLUMN "fee_reliefs" jsonb DEFAULT '[]'::jsonb NOT NULL;