CREATE TABLE "printed_page" (
	"image_id" uuid NOT NULL,
	"page" integer NOT NULL,
	"words" jsonb NOT NULL,
	"at" timestamp with time zone NOT NULL,
	CONSTRAINT "printed_page_image_id_page_pk" PRIMARY KEY("image_id","page")
);
--> statement-breakpoint
ALTER TABLE "printed_page" ADD CONSTRAINT "printed_page_image_id_image_id_fk" FOREIGN KEY ("image_id") REFERENCES "public"."image"("id") ON DELETE cascade ON UPDATE no action;