ALTER TYPE "public"."log_act" ADD VALUE 'make-bill';--> statement-breakpoint
ALTER TYPE "public"."log_act" ADD VALUE 'withdraw-bill';--> statement-breakpoint
CREATE TABLE "bill" (
	"id" uuid PRIMARY KEY NOT NULL,
	"cycle" text NOT NULL,
	"number" text NOT NULL,
	"payer" text NOT NULL,
	"payer_code" text,
	"currency" text NOT NULL,
	"by" uuid NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"withdrawn_by" uuid,
	"withdrawn_at" timestamp with time zone,
	CONSTRAINT "bill_number_unique" UNIQUE("number")
);
--> statement-breakpoint
CREATE TABLE "bill_part" (
	"bill_id" uuid NOT NULL,
	"ordinal" integer NOT NULL,
	"application_id" uuid NOT NULL,
	"amount" bigint NOT NULL,
	CONSTRAINT "bill_part_bill_id_ordinal_pk" PRIMARY KEY("bill_id","ordinal")
);
--> statement-breakpoint
ALTER TABLE "bill" ADD CONSTRAINT "bill_cycle_cycle_code_fk" FOREIGN KEY ("cycle") REFERENCES "public"."cycle"("code") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "bill" ADD CONSTRAINT "bill_by_principal_id_fk" FOREIGN KEY ("by") REFERENCES "public"."principal"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "bill" ADD CONSTRAINT "bill_withdrawn_by_principal_id_fk" FOREIGN KEY ("withdrawn_by") REFERENCES "public"."principal"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "bill_part" ADD CONSTRAINT "bill_part_bill_id_bill_id_fk" FOREIGN KEY ("bill_id") REFERENCES "public"."bill"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "bill_part" ADD CONSTRAINT "bill_part_application_id_application_id_fk" FOREIGN KEY ("application_id") REFERENCES "public"."application"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "bill_by_time" ON "bill" USING btree ("cycle","at","id");--> statement-breakpoint
CREATE INDEX "bill_by_principal" ON "bill" USING btree ("by","at");--> statement-breakpoint
CREATE INDEX "bill_part_by_application" ON "bill_part" USING btree ("application_id");