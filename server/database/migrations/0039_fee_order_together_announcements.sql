ALTER TYPE "public"."log_act" ADD VALUE 'ask-for-fee' BEFORE 'sign-in';--> statement-breakpoint
ALTER TYPE "public"."log_act" ADD VALUE 'announce';--> statement-breakpoint
ALTER TYPE "public"."log_act" ADD VALUE 'change-register';--> statement-breakpoint
CREATE TABLE "announcement" (
	"id" uuid PRIMARY KEY NOT NULL,
	"cycle" text NOT NULL,
	"subject" text NOT NULL,
	"text" text NOT NULL,
	"filter" jsonb NOT NULL,
	"by" uuid NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"reached" integer DEFAULT 0 NOT NULL,
	"without" integer DEFAULT 0 NOT NULL,
	"is_whole" boolean DEFAULT false NOT NULL
);
--> statement-breakpoint
ALTER TABLE "payment" DROP CONSTRAINT "payment_gateway_order_unique";--> statement-breakpoint
DROP INDEX "letter_by_state";--> statement-breakpoint
DROP INDEX "message_to_send";--> statement-breakpoint
ALTER TABLE "application" ADD COLUMN "fee_moment" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "message" ADD COLUMN "announcement_id" uuid;--> statement-breakpoint
ALTER TABLE "letter" ADD COLUMN "is_of_many" boolean DEFAULT false NOT NULL;--> statement-breakpoint
CREATE INDEX "announcement_by_cycle" ON "announcement" USING btree ("cycle","at");--> statement-breakpoint
ALTER TABLE "message" ADD CONSTRAINT "message_announcement_id_announcement_id_fk" FOREIGN KEY ("announcement_id") REFERENCES "public"."announcement"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "payment_by_order" ON "payment" USING btree ("gateway_order","application_id");--> statement-breakpoint
CREATE UNIQUE INDEX "message_announced" ON "message" USING btree ("announcement_id","application_id") WHERE "message"."announcement_id" is not null;--> statement-breakpoint
CREATE INDEX "letter_to_carry" ON "letter" USING btree ("is_of_many","at") WHERE "letter"."state" = 'waiting';--> statement-breakpoint
CREATE INDEX "message_to_send" ON "message" USING btree (("announcement_id" is not null),"at") WHERE "message"."sent_at" is null;