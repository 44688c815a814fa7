CREATE TABLE "notice_draft" (
	"id" uuid PRIMARY KEY NOT NULL,
	"cycle" text,
	"title" text NOT NULL,
	"document" jsonb NOT NULL,
	"faults" jsonb NOT NULL,
	"revision" integer NOT NULL,
	"by" uuid NOT NULL,
	"at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
ALTER TABLE "notice_draft" ADD CONSTRAINT "notice_draft_by_principal_id_fk" FOREIGN KEY ("by") REFERENCES "public"."principal"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "notice_draft_by_time" ON "notice_draft" USING btree ("at");