ALTER TABLE "allocation_run" ADD COLUMN "restrictions" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "run_placement" ADD COLUMN "held" integer DEFAULT 0 NOT NULL;