ALTER TABLE "file" ALTER COLUMN "content" DROP NOT NULL;--> statement-breakpoint
ALTER TABLE "file" ADD COLUMN "home" text DEFAULT 'database' NOT NULL;--> statement-breakpoint
ALTER TABLE "file" ADD CONSTRAINT "file_home" CHECK (("file"."home" = 'database') = ("file"."content" is not null));