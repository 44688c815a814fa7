CREATE TABLE "image_likeness" (
	"image_id" uuid PRIMARY KEY NOT NULL,
	"application_id" uuid NOT NULL,
	"cycle" text NOT NULL,
	"kind" text NOT NULL,
	"pixels_sha256" text NOT NULL,
	"hash" bit(256) NOT NULL,
	"keys" integer[] NOT NULL
);
--> statement-breakpoint
ALTER TABLE "image_likeness" ADD CONSTRAINT "image_likeness_image_id_image_id_fk" FOREIGN KEY ("image_id") REFERENCES "public"."image"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "image_likeness_pixels" ON "image_likeness" USING btree ("cycle","kind","pixels_sha256");--> statement-breakpoint
CREATE INDEX "image_likeness_keys" ON "image_likeness" USING gin ("keys");