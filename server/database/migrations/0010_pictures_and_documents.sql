CREATE TABLE "face_likeness" (
	"image_id" uuid PRIMARY KEY NOT NULL,
	"cycle" text NOT NULL,
	"signs" bit(576) NOT NULL,
	"keys" integer[] NOT NULL
);
--> statement-breakpoint
CREATE TABLE "image_likeness" (
	"image_id" uuid PRIMARY KEY NOT NULL,
	"cycle" text NOT NULL,
	"kind" text NOT NULL,
	"pixels_sha256" text NOT NULL,
	"hash" bit(256) NOT NULL,
	"keys" integer[] NOT NULL
);
--> statement-breakpoint
ALTER TABLE "image" ALTER COLUMN "display_sha256" DROP NOT NULL;--> statement-breakpoint
ALTER TABLE "image" ADD COLUMN "state" text DEFAULT 'measured' NOT NULL;--> statement-breakpoint
ALTER TABLE "image" ADD COLUMN "attempts" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "image" ADD COLUMN "pages" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "image" ADD COLUMN "originals" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "image" ADD COLUMN "edits" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "image" ADD COLUMN "marks" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "scrutiny_decision" ADD COLUMN "cycle" text;--> statement-breakpoint
UPDATE "scrutiny_decision" SET "cycle" = "application"."cycle" FROM "application" WHERE "application"."id" = "scrutiny_decision"."application_id";--> statement-breakpoint
ALTER TABLE "scrutiny_decision" ALTER COLUMN "cycle" SET NOT NULL;--> statement-breakpoint
ALTER TABLE "scrutiny_decision" ADD COLUMN "slots" jsonb;--> statement-breakpoint
ALTER TABLE "face_likeness" ADD CONSTRAINT "face_likeness_image_id_image_id_fk" FOREIGN KEY ("image_id") REFERENCES "public"."image"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "image_likeness" ADD CONSTRAINT "image_likeness_image_id_image_id_fk" FOREIGN KEY ("image_id") REFERENCES "public"."image"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "face_likeness_keys" ON "face_likeness" USING gin ("keys");--> statement-breakpoint
CREATE INDEX "image_likeness_pixels" ON "image_likeness" USING btree ("cycle","kind","pixels_sha256");--> statement-breakpoint
CREATE INDEX "image_likeness_keys" ON "image_likeness" USING gin ("keys");--> statement-breakpoint
CREATE INDEX "scrutiny_decision_by_time" ON "scrutiny_decision" USING btree ("cycle","at");