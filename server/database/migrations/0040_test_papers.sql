DROP INDEX "seat_roll";--> statement-breakpoint
ALTER TABLE "seat" ADD COLUMN "ordinal" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "seat" ADD COLUMN "paper" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "seat" DROP CONSTRAINT "seat_pkey";--> statement-breakpoint
ALTER TABLE "seat" ADD CONSTRAINT "seat_application_id_ordinal_pk" PRIMARY KEY("application_id","ordinal");--> statement-breakpoint
ALTER TABLE "allocation_run" ADD COLUMN "sittings" jsonb;--> statement-breakpoint
ALTER TABLE "run_placement" ADD COLUMN "part" integer;--> statement-breakpoint
ALTER TABLE "run_placement" ADD COLUMN "sessions" text[];--> statement-breakpoint
CREATE UNIQUE INDEX "seat_roll" ON "seat" USING btree ("cycle","roll") WHERE "seat"."ordinal" = 0;
