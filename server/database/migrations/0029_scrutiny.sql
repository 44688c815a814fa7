ALTER TYPE "public"."log_act" ADD VALUE 'refer' BEFORE 'sign-in';--> statement-breakpoint
ALTER TYPE "public"."log_act" ADD VALUE 'answer-referral' BEFORE 'sign-in';--> statement-breakpoint
ALTER TYPE "public"."log_act" ADD VALUE 'set-aside' BEFORE 'sign-in';--> statement-breakpoint
ALTER TYPE "public"."log_act" ADD VALUE 'remind' BEFORE 'sign-in';--> statement-breakpoint
ALTER TYPE "public"."log_act" ADD VALUE 'judge-pair';--> statement-breakpoint
ALTER TYPE "public"."log_act" ADD VALUE 'prove-counts';--> statement-breakpoint
CREATE TABLE "kept_reason" (
	"id" uuid PRIMARY KEY NOT NULL,
	"cycle" text NOT NULL,
	"item" text NOT NULL,
	"reason" text NOT NULL,
	"uses" integer DEFAULT 0 NOT NULL,
	"by" uuid NOT NULL,
	"at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "reading" (
	"id" uuid PRIMARY KEY NOT NULL,
	"application_id" uuid NOT NULL,
	"question" text NOT NULL,
	"image_id" uuid NOT NULL,
	"answer" text NOT NULL,
	"result" text NOT NULL,
	"by" uuid NOT NULL,
	"at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "roster_view" (
	"id" uuid PRIMARY KEY NOT NULL,
	"cycle" text NOT NULL,
	"title" text NOT NULL,
	"query" text NOT NULL,
	"by" uuid NOT NULL,
	"is_shared" boolean NOT NULL,
	"at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "referral" (
	"id" uuid PRIMARY KEY NOT NULL,
	"application_id" uuid NOT NULL,
	"cycle" text NOT NULL,
	"desk" text NOT NULL,
	"question" text NOT NULL,
	"until" timestamp with time zone,
	"by" uuid NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"answer" text,
	"answered_by" uuid,
	"answered_at" timestamp with time zone
);
--> statement-breakpoint
ALTER TABLE "kept_reason" ADD CONSTRAINT "kept_reason_cycle_cycle_code_fk" FOREIGN KEY ("cycle") REFERENCES "public"."cycle"("code") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "kept_reason" ADD CONSTRAINT "kept_reason_by_principal_id_fk" FOREIGN KEY ("by") REFERENCES "public"."principal"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "reading" ADD CONSTRAINT "reading_application_id_application_id_fk" FOREIGN KEY ("application_id") REFERENCES "public"."application"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "reading" ADD CONSTRAINT "reading_by_principal_id_fk" FOREIGN KEY ("by") REFERENCES "public"."principal"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "roster_view" ADD CONSTRAINT "roster_view_cycle_cycle_code_fk" FOREIGN KEY ("cycle") REFERENCES "public"."cycle"("code") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "roster_view" ADD CONSTRAINT "roster_view_by_principal_id_fk" FOREIGN KEY ("by") REFERENCES "public"."principal"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "referral" ADD CONSTRAINT "referral_application_id_application_id_fk" FOREIGN KEY ("application_id") REFERENCES "public"."application"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "referral" ADD CONSTRAINT "referral_by_principal_id_fk" FOREIGN KEY ("by") REFERENCES "public"."principal"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "referral" ADD CONSTRAINT "referral_answered_by_principal_id_fk" FOREIGN KEY ("answered_by") REFERENCES "public"."principal"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "kept_reason_once" ON "kept_reason" USING btree ("cycle","item","reason");--> statement-breakpoint
CREATE INDEX "reading_by_application" ON "reading" USING btree ("application_id","at");--> statement-breakpoint
CREATE INDEX "roster_view_by_cycle" ON "roster_view" USING btree ("cycle","title");--> statement-breakpoint
CREATE UNIQUE INDEX "referral_one_open" ON "referral" USING btree ("application_id") WHERE "referral"."answered_at" is null;--> statement-breakpoint
CREATE INDEX "referral_by_application" ON "referral" USING btree ("application_id","at");--> statement-breakpoint
CREATE INDEX "referral_by_desk" ON "referral" USING btree ("cycle","desk","at") WHERE "referral"."answered_at" is null;--> statement-breakpoint
-- Decisions by quarter of an hour and by whom: how loaded everybody is, and at what pace the queue moves.
CREATE FUNCTION tally_decisions() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  INSERT INTO tally_change (cycle, tag, delta) SELECT d.cycle, 'decided@' || lpad(floor(extract(epoch FROM d.at) / 900)::text, 8, '0') || ':' || d.by, count(*) FROM touched d GROUP BY 1, 2;
  RETURN NULL;
END $$;--> statement-breakpoint
CREATE TRIGGER tally_decisions AFTER INSERT ON scrutiny_decision REFERENCING NEW TABLE AS touched FOR EACH STATEMENT EXECUTE FUNCTION tally_decisions();--> statement-breakpoint
INSERT INTO tally (cycle, tag, n) SELECT d.cycle, 'decided@' || lpad(floor(extract(epoch FROM d.at) / 900)::text, 8, '0') || ':' || d.by, count(*) FROM scrutiny_decision d GROUP BY 1, 2;--> statement-breakpoint
-- A case that a desk is asked about leaves its queue, and comes back with the answer.
CREATE TRIGGER look_again_after_asking AFTER INSERT ON referral REFERENCING NEW TABLE AS touched FOR EACH STATEMENT EXECUTE FUNCTION scrutiny_look_again();--> statement-breakpoint
CREATE TRIGGER look_again_after_answer AFTER UPDATE ON referral REFERENCING NEW TABLE AS touched FOR EACH STATEMENT EXECUTE FUNCTION scrutiny_look_again();
