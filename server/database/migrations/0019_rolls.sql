ALTER TYPE "public"."log_act" ADD VALUE 'read-roll' BEFORE 'propose-act';--> statement-breakpoint
ALTER TYPE "public"."log_act" ADD VALUE 'enter-roll' BEFORE 'propose-act';--> statement-breakpoint
CREATE TABLE "roll" (
	"id" uuid PRIMARY KEY NOT NULL,
	"cycle" text NOT NULL,
	"sender" text NOT NULL,
	"name" text NOT NULL,
	"sha256" text NOT NULL,
	"kind" jsonb NOT NULL,
	"headings" jsonb NOT NULL,
	"samples" jsonb NOT NULL,
	"rows" integer NOT NULL,
	"columns" jsonb NOT NULL,
	"options" jsonb NOT NULL,
	"state" text NOT NULL,
	"totals" jsonb,
	"by" uuid NOT NULL,
	"at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "roll_entry" (
	"cycle" text NOT NULL,
	"sender" text NOT NULL,
	"key" text NOT NULL,
	"application_id" uuid NOT NULL,
	"revision" integer NOT NULL,
	CONSTRAINT "roll_entry_cycle_sender_key_pk" PRIMARY KEY("cycle","sender","key")
);
--> statement-breakpoint
CREATE TABLE "roll_row" (
	"roll_id" uuid NOT NULL,
	"row" integer NOT NULL,
	"outcome" text NOT NULL,
	"reference" text NOT NULL,
	"name" text NOT NULL,
	"findings" jsonb NOT NULL,
	CONSTRAINT "roll_row_roll_id_row_pk" PRIMARY KEY("roll_id","row")
);
--> statement-breakpoint
ALTER TABLE "roll" ADD CONSTRAINT "roll_cycle_cycle_code_fk" FOREIGN KEY ("cycle") REFERENCES "public"."cycle"("code") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "roll" ADD CONSTRAINT "roll_sha256_file_sha256_fk" FOREIGN KEY ("sha256") REFERENCES "public"."file"("sha256") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "roll" ADD CONSTRAINT "roll_by_principal_id_fk" FOREIGN KEY ("by") REFERENCES "public"."principal"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "roll_entry" ADD CONSTRAINT "roll_entry_application_id_application_id_fk" FOREIGN KEY ("application_id") REFERENCES "public"."application"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "roll_row" ADD CONSTRAINT "roll_row_roll_id_roll_id_fk" FOREIGN KEY ("roll_id") REFERENCES "public"."roll"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "roll_by_time" ON "roll" USING btree ("cycle","at");--> statement-breakpoint
CREATE INDEX "roll_entry_by_application" ON "roll_entry" USING btree ("application_id");--> statement-breakpoint
CREATE INDEX "roll_row_by_outcome" ON "roll_row" USING btree ("roll_id","outcome","row");