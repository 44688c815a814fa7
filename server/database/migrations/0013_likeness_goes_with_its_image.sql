ALTER TABLE "image_likeness" DROP CONSTRAINT "image_likeness_image_id_image_id_fk";
--> statement-breakpoint
ALTER TABLE "image_likeness" ADD CONSTRAINT "image_likeness_image_id_image_id_fk" FOREIGN KEY ("image_id") REFERENCES "public"."image"("id") ON DELETE cascade ON UPDATE no action;