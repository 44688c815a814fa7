ALTER TYPE "public"."log_act" ADD VALUE 'release-data' BEFORE 'sign-in';--> statement-breakpoint
ALTER TYPE "public"."log_act" ADD VALUE 'keep-data' BEFORE 'sign-in';--> statement-breakpoint
ALTER TYPE "public"."log_act" ADD VALUE 'erase-person';--> statement-breakpoint
ALTER TABLE "application" ADD COLUMN "erasing_since" timestamp with time zone;--> statement-breakpoint
CREATE INDEX "application_erasing" ON "application" USING btree ("cycle","erasing_since") WHERE "application"."erasing_since" is not null;