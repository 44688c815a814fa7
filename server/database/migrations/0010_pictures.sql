ALTER TABLE "image" ALTER COLUMN "display_sha256" DROP NOT NULL;--> statement-breakpoint
ALTER TABLE "image" ADD COLUMN "state" text DEFAULT 'measured' NOT NULL;--> statement-breakpoint
ALTER TABLE "image" ADD COLUMN "attempts" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "image" ADD COLUMN "original_sha256" text;--> statement-breakpoint
ALTER TABLE "image" ADD COLUMN "edits" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "image" ADD COLUMN "marks" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "image" ADD CONSTRAINT "image_original_sha256_file_sha256_fk" FOREIGN KEY ("original_sha256") REFERENCES "public"."file"("sha256") ON DELETE no action ON UPDATE no action;