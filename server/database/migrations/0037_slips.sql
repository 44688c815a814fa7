ALTER TYPE "public"."log_act" ADD VALUE 'hand-in-slip' BEFORE 'sign-in';--> statement-breakpoint
ALTER TYPE "public"."log_act" ADD VALUE 'take-back-slip' BEFORE 'sign-in';--> statement-breakpoint
ALTER TYPE "public"."log_act" ADD VALUE 'confirm-slip' BEFORE 'sign-in';--> statement-breakpoint
ALTER TYPE "public"."log_act" ADD VALUE 'refuse-slip' BEFORE 'sign-in';--> statement-breakpoint
CREATE TABLE "deposit_slip" (
	"id" uuid PRIMARY KEY NOT NULL,
	"application_id" uuid NOT NULL,
	"cycle" text NOT NULL,
	"amount" bigint NOT NULL,
	"currency" text NOT NULL,
	"branch" text NOT NULL,
	"bank_reference" text NOT NULL,
	"paid_on" text NOT NULL,
	"sha256" text NOT NULL,
	"pages" jsonb NOT NULL,
	"state" text NOT NULL,
	"arrived" bigint DEFAULT 0 NOT NULL,
	"by" uuid NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"decided_by" uuid,
	"decided_at" timestamp with time zone,
	"reason" text
);
--> statement-breakpoint
ALTER TABLE "deposit_slip" ADD CONSTRAINT "deposit_slip_application_id_application_id_fk" FOREIGN KEY ("application_id") REFERENCES "public"."application"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "deposit_slip" ADD CONSTRAINT "deposit_slip_by_principal_id_fk" FOREIGN KEY ("by") REFERENCES "public"."principal"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "deposit_slip" ADD CONSTRAINT "deposit_slip_decided_by_principal_id_fk" FOREIGN KEY ("decided_by") REFERENCES "public"."principal"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "deposit_slip_one_waiting" ON "deposit_slip" USING btree ("application_id") WHERE "deposit_slip"."state" = 'waiting';--> statement-breakpoint
CREATE INDEX "deposit_slip_by_application" ON "deposit_slip" USING btree ("application_id","at");--> statement-breakpoint
CREATE INDEX "deposit_slip_waiting" ON "deposit_slip" USING btree ("cycle","at","id") WHERE "deposit_slip"."state" = 'waiting';--> statement-breakpoint
CREATE INDEX "deposit_slip_awaited" ON "deposit_slip" USING btree ("application_id") WHERE "deposit_slip"."state" = 'confirmed' and "deposit_slip"."arrived" < "deposit_slip"."amount";--> statement-breakpoint
CREATE INDEX "deposit_slip_same" ON "deposit_slip" USING btree ("sha256");--> statement-breakpoint
CREATE INDEX "deposit_slip_alike" ON "deposit_slip" USING btree ("paid_on","amount");