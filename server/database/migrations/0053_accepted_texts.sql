ALTER TYPE "public"."log_act" ADD VALUE 'accept-texts' BEFORE 'sign-in';--> statement-breakpoint
CREATE TABLE "accepted_text" (
	"id" uuid PRIMARY KEY NOT NULL,
	"application_id" uuid NOT NULL,
	"text" text NOT NULL,
	"title" text NOT NULL,
	"sha256" text NOT NULL,
	"notice_version" integer NOT NULL,
	"language" text NOT NULL,
	"act" text NOT NULL,
	"by" uuid NOT NULL,
	"at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "text_wording" (
	"sha256" text PRIMARY KEY NOT NULL,
	"text" text NOT NULL
);
--> statement-breakpoint
ALTER TABLE "application" ADD COLUMN "accepted" jsonb DEFAULT '{}'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "accepted_text" ADD CONSTRAINT "accepted_text_application_id_application_id_fk" FOREIGN KEY ("application_id") REFERENCES "public"."application"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "accepted_text" ADD CONSTRAINT "accepted_text_sha256_text_wording_sha256_fk" FOREIGN KEY ("sha256") REFERENCES "public"."text_wording"("sha256") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "accepted_text" ADD CONSTRAINT "accepted_text_by_principal_id_fk" FOREIGN KEY ("by") REFERENCES "public"."principal"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "accepted_text_of" ON "accepted_text" USING btree ("application_id","at");