ALTER TYPE "public"."log_act" ADD VALUE 'ask-correction' BEFORE 'sign-in';--> statement-breakpoint
ALTER TYPE "public"."log_act" ADD VALUE 'add-to-correction' BEFORE 'sign-in';--> statement-breakpoint
ALTER TYPE "public"."log_act" ADD VALUE 'take-back-correction' BEFORE 'sign-in';--> statement-breakpoint
ALTER TYPE "public"."log_act" ADD VALUE 'accept-correction' BEFORE 'sign-in';--> statement-breakpoint
ALTER TYPE "public"."log_act" ADD VALUE 'refuse-correction' BEFORE 'sign-in';--> statement-breakpoint
ALTER TYPE "public"."log_act" ADD VALUE 'apply-correction' BEFORE 'sign-in';--> statement-breakpoint
ALTER TYPE "public"."log_act" ADD VALUE 'end-correction' BEFORE 'sign-in';--> statement-breakpoint
CREATE TABLE "correction" (
	"id" uuid PRIMARY KEY NOT NULL,
	"application_id" uuid NOT NULL,
	"cycle" text NOT NULL,
	"state" text NOT NULL,
	"changes" jsonb NOT NULL,
	"slots" jsonb DEFAULT '{}'::jsonb NOT NULL,
	"reason" text DEFAULT '' NOT NULL,
	"rules" jsonb DEFAULT '[]'::jsonb NOT NULL,
	"by" uuid NOT NULL,
	"begun_at" timestamp with time zone NOT NULL,
	"handed_by" uuid,
	"handed_at" timestamp with time zone,
	"until" timestamp with time zone,
	"holds" bigint DEFAULT 0 NOT NULL,
	"charge" jsonb,
	"at_once" boolean DEFAULT false NOT NULL,
	"decided_by" uuid,
	"decided_at" timestamp with time zone,
	"decision" text,
	"effects" jsonb
);
--> statement-breakpoint
ALTER TABLE "application" ADD COLUMN "correction_charges" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "image" ADD COLUMN "correction_id" uuid;--> statement-breakpoint
ALTER TABLE "correction" ADD CONSTRAINT "correction_application_id_application_id_fk" FOREIGN KEY ("application_id") REFERENCES "public"."application"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "correction" ADD CONSTRAINT "correction_by_principal_id_fk" FOREIGN KEY ("by") REFERENCES "public"."principal"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "correction" ADD CONSTRAINT "correction_handed_by_principal_id_fk" FOREIGN KEY ("handed_by") REFERENCES "public"."principal"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "correction" ADD CONSTRAINT "correction_decided_by_principal_id_fk" FOREIGN KEY ("decided_by") REFERENCES "public"."principal"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "correction_one_open" ON "correction" USING btree ("application_id") WHERE "correction"."state" in ('drafting', 'unpaid', 'waiting');--> statement-breakpoint
CREATE INDEX "correction_by_application" ON "correction" USING btree ("application_id","begun_at");--> statement-breakpoint
CREATE INDEX "correction_waiting" ON "correction" USING btree ("cycle","handed_at","id") WHERE "correction"."state" = 'waiting';--> statement-breakpoint
CREATE INDEX "correction_to_end" ON "correction" USING btree ("until") WHERE "correction"."state" in ('drafting', 'unpaid');--> statement-breakpoint
CREATE INDEX "image_by_correction" ON "image" USING btree ("correction_id") WHERE "image"."correction_id" is not null;