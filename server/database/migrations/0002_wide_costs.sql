ALTER TABLE "allocation_run" ALTER COLUMN "cost" SET DATA TYPE bigint;--> statement-breakpoint
ALTER TABLE "allocation_run" ALTER COLUMN "bound" SET DATA TYPE bigint;