ALTER TYPE "public"."log_act" ADD VALUE 'bar-person';--> statement-breakpoint
ALTER TYPE "public"."log_act" ADD VALUE 'lift-bar';--> statement-breakpoint
ALTER TYPE "public"."log_act" ADD VALUE 'judge-barred';--> statement-breakpoint
CREATE TABLE "barred_key" (
	"key" bigint NOT NULL,
	"barred_id" uuid NOT NULL,
	CONSTRAINT "barred_key_key_barred_id_pk" PRIMARY KEY("key","barred_id")
);
--> statement-breakpoint
CREATE TABLE "barred_match" (
	"id" uuid PRIMARY KEY NOT NULL,
	"application_id" uuid NOT NULL,
	"cycle" text NOT NULL,
	"barred_id" uuid NOT NULL,
	"score" integer NOT NULL,
	"reasons" jsonb NOT NULL,
	"state" text DEFAULT 'open' NOT NULL,
	"found_at" timestamp with time zone NOT NULL,
	"reason" text,
	"by" uuid,
	"at" timestamp with time zone
);
--> statement-breakpoint
CREATE TABLE "barred_person" (
	"id" uuid PRIMARY KEY NOT NULL,
	"name" text NOT NULL,
	"born_on" text NOT NULL,
	"identity_number" text NOT NULL,
	"mobile" text NOT NULL,
	"email" text NOT NULL,
	"reason" text NOT NULL,
	"until" text,
	"by" uuid NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"lifted_by" uuid,
	"lifted_at" timestamp with time zone,
	"lift_reason" text
);
--> statement-breakpoint
ALTER TABLE "barred_key" ADD CONSTRAINT "barred_key_barred_id_barred_person_id_fk" FOREIGN KEY ("barred_id") REFERENCES "public"."barred_person"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "barred_match" ADD CONSTRAINT "barred_match_application_id_application_id_fk" FOREIGN KEY ("application_id") REFERENCES "public"."application"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "barred_match" ADD CONSTRAINT "barred_match_barred_id_barred_person_id_fk" FOREIGN KEY ("barred_id") REFERENCES "public"."barred_person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "barred_match" ADD CONSTRAINT "barred_match_by_principal_id_fk" FOREIGN KEY ("by") REFERENCES "public"."principal"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "barred_person" ADD CONSTRAINT "barred_person_by_principal_id_fk" FOREIGN KEY ("by") REFERENCES "public"."principal"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "barred_person" ADD CONSTRAINT "barred_person_lifted_by_principal_id_fk" FOREIGN KEY ("lifted_by") REFERENCES "public"."principal"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "barred_match_one" ON "barred_match" USING btree ("application_id","barred_id");--> statement-breakpoint
CREATE INDEX "barred_match_of" ON "barred_match" USING btree ("barred_id");--> statement-breakpoint
CREATE INDEX "barred_match_open" ON "barred_match" USING btree ("cycle","score","id") WHERE "barred_match"."state" = 'open';--> statement-breakpoint
CREATE UNIQUE INDEX "barred_person_once" ON "barred_person" USING btree ("name","born_on","identity_number") WHERE "barred_person"."lifted_at" is null;--> statement-breakpoint
CREATE INDEX "barred_person_by_time" ON "barred_person" USING btree ("at","id");--> statement-breakpoint
CREATE TRIGGER look_again_after_barred AFTER INSERT ON barred_match REFERENCING NEW TABLE AS touched FOR EACH STATEMENT EXECUTE FUNCTION scrutiny_look_again();--> statement-breakpoint
CREATE TRIGGER look_again_after_barred_judged AFTER UPDATE ON barred_match REFERENCING NEW TABLE AS touched FOR EACH STATEMENT EXECUTE FUNCTION scrutiny_look_again();
