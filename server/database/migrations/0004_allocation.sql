CREATE TABLE "placement_lock" (
	"application_id" uuid PRIMARY KEY NOT NULL,
	"cycle" text NOT NULL,
	"city" text NOT NULL,
	"reason" text NOT NULL,
	"by" text NOT NULL,
	"at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
DROP INDEX "run_placement_by_city";--> statement-breakpoint
ALTER TABLE "allocation_run" ADD COLUMN "scope" text;--> statement-breakpoint
ALTER TABLE "allocation_run" ADD COLUMN "note" text;--> statement-breakpoint
ALTER TABLE "allocation_run" ADD COLUMN "seats" jsonb;--> statement-breakpoint
ALTER TABLE "allocation_run" ADD COLUMN "cities" jsonb;--> statement-breakpoint
ALTER TABLE "allocation_run" ADD COLUMN "standing" text;--> statement-breakpoint
ALTER TABLE "allocation_run" ADD COLUMN "lines" jsonb;--> statement-breakpoint
ALTER TABLE "allocation_run" ADD COLUMN "savings" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "allocation_run" ADD COLUMN "took_milliseconds" integer;--> statement-breakpoint
ALTER TABLE "run_placement" ADD COLUMN "home" text;--> statement-breakpoint
ALTER TABLE "run_placement" ADD COLUMN "choices" text[];--> statement-breakpoint
ALTER TABLE "run_placement" ADD COLUMN "needs" boolean;--> statement-breakpoint
ALTER TABLE "run_placement" ADD COLUMN "turn" double precision;--> statement-breakpoint
ALTER TABLE "run_placement" ADD COLUMN "told" text;--> statement-breakpoint
ALTER TABLE "run_placement" ADD COLUMN "locked" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "run_placement" ADD COLUMN "km" integer;--> statement-breakpoint
ALTER TABLE "run_placement" ADD COLUMN "place" integer;--> statement-breakpoint
ALTER TABLE "placement_lock" ADD CONSTRAINT "placement_lock_application_id_application_id_fk" FOREIGN KEY ("application_id") REFERENCES "public"."application"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "placement_lock" ADD CONSTRAINT "placement_lock_cycle_cycle_code_fk" FOREIGN KEY ("cycle") REFERENCES "public"."cycle"("code") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "placement_lock_by_cycle" ON "placement_lock" USING btree ("cycle");--> statement-breakpoint
CREATE INDEX "run_placement_by_choice" ON "run_placement" USING btree ("run_id","choice","application_id");--> statement-breakpoint
CREATE INDEX "run_placement_by_city" ON "run_placement" USING btree ("run_id","city","application_id");--> statement-breakpoint
-- Runs of before knew one policy, kept no seats by session and no lines; their people are taken as they stand now.
UPDATE "allocation_run" SET "scope" = 'waiting', "note" = '', "seats" = '[]', "cities" = '[]', "lines" = '[]', "took_milliseconds" = 0,
	"standing" = CASE WHEN "certified" THEN 'certified' ELSE 'not certified' END,
	"policy" = "policy" || '{"seed": 0, "staying": 0}',
	"summary" = jsonb_build_object('people', "summary"->'candidates', 'byChoice', "summary"->'byChoice', 'offList', "summary"->'offList', 'unseated', "summary"->'unseated', 'byDistance', '[]'::jsonb,
		'cities', (SELECT coalesce(jsonb_agg(c || '{"accessibleCapacity": 0, "anyChoice": 0, "placedInNeed": 0, "placedFirst": 0, "placedOffList": 0, "accessiblePrice": 0}'), '[]') FROM jsonb_array_elements("summary"->'cities') c));--> statement-breakpoint
UPDATE "run_placement" p SET "home" = '', "needs" = false, "turn" = coalesce(extract(epoch FROM a."submitted_at") * 1000, 0),
	"choices" = ARRAY(SELECT jsonb_array_elements_text(coalesce(a."answers"->'cities', '[]')))
	FROM "application" a WHERE a."id" = p."application_id";--> statement-breakpoint
ALTER TABLE "allocation_run" ALTER COLUMN "scope" SET NOT NULL;--> statement-breakpoint
ALTER TABLE "allocation_run" ALTER COLUMN "note" SET NOT NULL;--> statement-breakpoint
ALTER TABLE "allocation_run" ALTER COLUMN "seats" SET NOT NULL;--> statement-breakpoint
ALTER TABLE "allocation_run" ALTER COLUMN "cities" SET NOT NULL;--> statement-breakpoint
ALTER TABLE "allocation_run" ALTER COLUMN "standing" SET NOT NULL;--> statement-breakpoint
ALTER TABLE "allocation_run" ALTER COLUMN "lines" SET NOT NULL;--> statement-breakpoint
ALTER TABLE "allocation_run" ALTER COLUMN "took_milliseconds" SET NOT NULL;--> statement-breakpoint
ALTER TABLE "run_placement" ALTER COLUMN "home" SET NOT NULL;--> statement-breakpoint
ALTER TABLE "run_placement" ALTER COLUMN "choices" SET NOT NULL;--> statement-breakpoint
ALTER TABLE "run_placement" ALTER COLUMN "needs" SET NOT NULL;--> statement-breakpoint
ALTER TABLE "run_placement" ALTER COLUMN "turn" SET NOT NULL;
