CREATE TABLE "face_likeness" (
	"image_id" uuid PRIMARY KEY NOT NULL,
	"cycle" text NOT NULL,
	"signs" bit(576) NOT NULL,
	"keys" integer[] NOT NULL
);
--> statement-breakpoint
ALTER TABLE "face_likeness" ADD CONSTRAINT "face_likeness_image_id_image_id_fk" FOREIGN KEY ("image_id") REFERENCES "public"."image"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "face_likeness_keys" ON "face_likeness" USING gin ("keys");