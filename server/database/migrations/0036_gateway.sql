CREATE TABLE "standin_gateway_call" (
	"id" uuid PRIMARY KEY NOT NULL,
	"gateway_order" text NOT NULL,
	"body" text NOT NULL,
	"signature" text NOT NULL,
	"due_at" timestamp with time zone NOT NULL,
	"tries" integer DEFAULT 0 NOT NULL,
	"done_at" timestamp with time zone
);
--> statement-breakpoint
ALTER TABLE "standin_gateway_order" ADD COLUMN "ends_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "standin_gateway_order" ADD COLUMN "charged" bigint;--> statement-breakpoint
ALTER TABLE "standin_gateway_order" ADD COLUMN "method" text;--> statement-breakpoint
ALTER TABLE "standin_gateway_order" ADD COLUMN "pending" text;--> statement-breakpoint
ALTER TABLE "standin_gateway_order" ADD COLUMN "bank_word" text;--> statement-breakpoint
ALTER TABLE "standin_gateway_order" ADD COLUMN "wrong_words" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
CREATE INDEX "standin_gateway_call_due" ON "standin_gateway_call" USING btree ("due_at") WHERE "standin_gateway_call"."done_at" is null;