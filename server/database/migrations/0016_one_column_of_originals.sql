ALTER TABLE "image" DROP CONSTRAINT "image_original_sha256_file_sha256_fk";
--> statement-breakpoint
ALTER TABLE "image" DROP COLUMN "original_sha256";