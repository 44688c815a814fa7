ALTER TABLE "allocation_run" DROP COLUMN "certified";--> statement-breakpoint
ALTER TABLE "allocation_run" DROP COLUMN "prices";