ALTER TYPE "public"."log_act" ADD VALUE 'ask-endorsement' BEFORE 'sign-in';--> statement-breakpoint
ALTER TYPE "public"."log_act" ADD VALUE 'take-back-endorsement' BEFORE 'sign-in';--> statement-breakpoint
ALTER TYPE "public"."log_act" ADD VALUE 'give-endorsement' BEFORE 'sign-in';--> statement-breakpoint
ALTER TYPE "public"."log_act" ADD VALUE 'record-endorsement' BEFORE 'sign-in';--> statement-breakpoint
CREATE TABLE "endorsement" (
	"id" uuid PRIMARY KEY NOT NULL,
	"application_id" uuid NOT NULL,
	"cycle" text NOT NULL,
	"rule" text NOT NULL,
	"notice_version" integer NOT NULL,
	"name" text NOT NULL,
	"channel" text,
	"address" text,
	"asked_by" uuid NOT NULL,
	"asked_at" timestamp with time zone NOT NULL,
	"reminded_at" timestamp with time zone,
	"state" text NOT NULL,
	"said" jsonb,
	"signed" text,
	"settled_at" timestamp with time zone
);
--> statement-breakpoint
CREATE TABLE "endorsement_link" (
	"token_hash" text PRIMARY KEY NOT NULL,
	"endorsement_id" uuid NOT NULL
);
--> statement-breakpoint
ALTER TABLE "application" ADD COLUMN "endorsed" jsonb DEFAULT '{}'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "endorsement" ADD CONSTRAINT "endorsement_application_id_application_id_fk" FOREIGN KEY ("application_id") REFERENCES "public"."application"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "endorsement" ADD CONSTRAINT "endorsement_asked_by_principal_id_fk" FOREIGN KEY ("asked_by") REFERENCES "public"."principal"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "endorsement_link" ADD CONSTRAINT "endorsement_link_endorsement_id_endorsement_id_fk" FOREIGN KEY ("endorsement_id") REFERENCES "public"."endorsement"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "endorsement_of" ON "endorsement" USING btree ("application_id","asked_at");--> statement-breakpoint
CREATE INDEX "endorsement_waiting" ON "endorsement" USING btree ("state","asked_at");--> statement-breakpoint
CREATE INDEX "endorsement_link_of" ON "endorsement_link" USING btree ("endorsement_id");