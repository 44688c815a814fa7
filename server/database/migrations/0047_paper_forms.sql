ALTER TYPE "public"."log_act" ADD VALUE 'finish-keying' BEFORE 'sign-in';--> statement-breakpoint
ALTER TYPE "public"."log_act" ADD VALUE 'take-back-keying' BEFORE 'sign-in';--> statement-breakpoint
ALTER TYPE "public"."log_act" ADD VALUE 'finish-second-keying' BEFORE 'sign-in';--> statement-breakpoint
ALTER TYPE "public"."log_act" ADD VALUE 'settle-keying' BEFORE 'sign-in';--> statement-breakpoint
CREATE TABLE "paper_form" (
	"application_id" uuid PRIMARY KEY NOT NULL,
	"reference" text NOT NULL,
	"first_by" uuid,
	"first_at" timestamp with time zone,
	"second" jsonb DEFAULT '{}'::jsonb NOT NULL,
	"second_by" uuid,
	"second_seen" timestamp with time zone,
	"second_at" timestamp with time zone,
	"compared" integer,
	"differing" jsonb,
	"settled" jsonb,
	"settled_by" uuid,
	"settled_at" timestamp with time zone
);
--> statement-breakpoint
ALTER TABLE "application" ADD COLUMN "received_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "application" ADD COLUMN "keying" text;--> statement-breakpoint
ALTER TABLE "paper_form" ADD CONSTRAINT "paper_form_application_id_application_id_fk" FOREIGN KEY ("application_id") REFERENCES "public"."application"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "paper_form" ADD CONSTRAINT "paper_form_first_by_principal_id_fk" FOREIGN KEY ("first_by") REFERENCES "public"."principal"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "paper_form" ADD CONSTRAINT "paper_form_second_by_principal_id_fk" FOREIGN KEY ("second_by") REFERENCES "public"."principal"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "paper_form" ADD CONSTRAINT "paper_form_settled_by_principal_id_fk" FOREIGN KEY ("settled_by") REFERENCES "public"."principal"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "application_by_keying" ON "application" USING btree ("cycle","keying","received_at","id") WHERE "application"."keying" is not null;