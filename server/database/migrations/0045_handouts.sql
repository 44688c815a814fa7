ALTER TYPE "public"."log_act" ADD VALUE 'add-handout';--> statement-breakpoint
ALTER TYPE "public"."log_act" ADD VALUE 'take-out-handout';--> statement-breakpoint
CREATE TABLE "handout" (
	"id" uuid PRIMARY KEY NOT NULL,
	"cycle" text NOT NULL,
	"title" text NOT NULL,
	"version" integer NOT NULL,
	"sha256" text NOT NULL,
	"bytes" integer NOT NULL,
	"by" uuid NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"taken_out_by" uuid,
	"taken_out_at" timestamp with time zone
);
--> statement-breakpoint
ALTER TABLE "handout" ADD CONSTRAINT "handout_cycle_cycle_code_fk" FOREIGN KEY ("cycle") REFERENCES "public"."cycle"("code") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "handout" ADD CONSTRAINT "handout_by_principal_id_fk" FOREIGN KEY ("by") REFERENCES "public"."principal"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "handout" ADD CONSTRAINT "handout_taken_out_by_principal_id_fk" FOREIGN KEY ("taken_out_by") REFERENCES "public"."principal"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "handout_version" ON "handout" USING btree ("cycle","title","version");