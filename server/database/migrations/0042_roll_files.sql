CREATE TABLE "roll_file" (
	"roll_id" uuid NOT NULL,
	"name" text NOT NULL,
	"bytes" integer NOT NULL,
	"sha256" text,
	"row" integer,
	"slot" text,
	"finding" jsonb,
	CONSTRAINT "roll_file_roll_id_name_pk" PRIMARY KEY("roll_id","name")
);
--> statement-breakpoint
ALTER TABLE "roll_file" ADD CONSTRAINT "roll_file_roll_id_roll_id_fk" FOREIGN KEY ("roll_id") REFERENCES "public"."roll"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "roll_file" ADD CONSTRAINT "roll_file_sha256_file_sha256_fk" FOREIGN KEY ("sha256") REFERENCES "public"."file"("sha256") ON DELETE no action ON UPDATE no action;