ALTER TYPE "public"."log_act" ADD VALUE 'change-seat' BEFORE 'sign-in';--> statement-breakpoint
ALTER TYPE "public"."log_act" ADD VALUE 'change-rooms';--> statement-breakpoint
ALTER TYPE "public"."log_act" ADD VALUE 'change-venue';--> statement-breakpoint
CREATE TABLE "review_seat" (
	"review_id" uuid NOT NULL,
	"application_id" uuid NOT NULL,
	"number" text NOT NULL,
	"fate" text NOT NULL,
	CONSTRAINT "review_seat_review_id_application_id_pk" PRIMARY KEY("review_id","application_id")
);
--> statement-breakpoint
ALTER TABLE "room_booking" ADD COLUMN "unusable" integer[] DEFAULT '{}' NOT NULL;--> statement-breakpoint
ALTER TABLE "room_booking" ADD COLUMN "closed_in" text[] DEFAULT '{}' NOT NULL;--> statement-breakpoint
ALTER TABLE "room_booking" ADD COLUMN "lost" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "venue" ADD COLUMN "contact" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "review_seat" ADD CONSTRAINT "review_seat_review_id_review_id_fk" FOREIGN KEY ("review_id") REFERENCES "public"."review"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "review_seat" ADD CONSTRAINT "review_seat_application_id_application_id_fk" FOREIGN KEY ("application_id") REFERENCES "public"."application"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "review_seat_by_number" ON "review_seat" USING btree ("review_id","number");