CREATE TABLE "standin_gateway_refund" (
	"reference" text PRIMARY KEY NOT NULL,
	"gateway_order" text NOT NULL,
	"amount" bigint NOT NULL,
	"currency" text NOT NULL,
	"state" text NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"payout" text
);
--> statement-breakpoint
ALTER TABLE "refund" ALTER COLUMN "application_id" DROP NOT NULL;--> statement-breakpoint
ALTER TABLE "refund" ADD COLUMN "line_id" uuid;--> statement-breakpoint
ALTER TABLE "refund" ADD COLUMN "event_id" text;--> statement-breakpoint
ALTER TABLE "refund" ADD COLUMN "gateway_order" text;--> statement-breakpoint
CREATE INDEX "standin_gateway_refund_by_order" ON "standin_gateway_refund" USING btree ("gateway_order");--> statement-breakpoint
ALTER TABLE "refund" ADD CONSTRAINT "refund_line_id_bank_line_id_fk" FOREIGN KEY ("line_id") REFERENCES "public"."bank_line"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "refund_by_order" ON "refund" USING btree ("gateway_order");--> statement-breakpoint
CREATE UNIQUE INDEX "refund_of_event" ON "refund" USING btree ("event_id") WHERE "refund"."state" not in ('withdrawn', 'returned');