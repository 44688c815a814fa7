ALTER TABLE "notice_draft" ADD COLUMN "errors" integer;--> statement-breakpoint
ALTER TABLE "notice_draft" ADD COLUMN "warnings" integer;--> statement-breakpoint
UPDATE "notice_draft" SET "errors" = jsonb_array_length("faults"), "warnings" = 0;--> statement-breakpoint
ALTER TABLE "notice_draft" ALTER COLUMN "errors" SET NOT NULL;--> statement-breakpoint
ALTER TABLE "notice_draft" ALTER COLUMN "warnings" SET NOT NULL;--> statement-breakpoint
ALTER TABLE "notice_draft" DROP COLUMN "faults";
