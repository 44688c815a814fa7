ALTER TABLE "image" ADD COLUMN "originals" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
UPDATE "image" SET "originals" = jsonb_build_array("original_sha256") WHERE "original_sha256" IS NOT NULL;
