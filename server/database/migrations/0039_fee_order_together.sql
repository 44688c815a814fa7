ALTER TYPE "public"."log_act" ADD VALUE 'ask-for-fee' BEFORE 'sign-in';--> statement-breakpoint
ALTER TABLE "payment" DROP CONSTRAINT "payment_gateway_order_unique";--> statement-breakpoint
ALTER TABLE "application" ADD COLUMN "fee_moment" timestamp with time zone;--> statement-breakpoint
CREATE UNIQUE INDEX "payment_by_order" ON "payment" USING btree ("gateway_order","application_id");