ALTER TYPE "public"."log_act" ADD VALUE 'add-room' BEFORE 'propose-act';--> statement-breakpoint
CREATE TABLE "city" (
	"code" text PRIMARY KEY NOT NULL,
	"title" text NOT NULL,
	"island" text NOT NULL,
	"lat" double precision NOT NULL,
	"lon" double precision NOT NULL,
	"postal_prefix" text NOT NULL
);
--> statement-breakpoint
CREATE TABLE "room" (
	"code" text PRIMARY KEY NOT NULL,
	"venue" text NOT NULL,
	"title" text NOT NULL,
	"position" integer NOT NULL
);
--> statement-breakpoint
CREATE TABLE "room_booking" (
	"cycle" text NOT NULL,
	"room" text NOT NULL,
	"seats" integer NOT NULL,
	"accessible_seats" integer NOT NULL,
	"by" uuid NOT NULL,
	"at" timestamp with time zone NOT NULL,
	CONSTRAINT "room_booking_cycle_room_pk" PRIMARY KEY("cycle","room")
);
--> statement-breakpoint
CREATE TABLE "venue" (
	"code" text PRIMARY KEY NOT NULL,
	"city" text NOT NULL,
	"title" text NOT NULL,
	"address" text NOT NULL,
	"position" integer NOT NULL
);
--> statement-breakpoint
ALTER TABLE "cycle" ADD COLUMN "centres_revision" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "room" ADD CONSTRAINT "room_venue_venue_code_fk" FOREIGN KEY ("venue") REFERENCES "public"."venue"("code") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "room_booking" ADD CONSTRAINT "room_booking_cycle_cycle_code_fk" FOREIGN KEY ("cycle") REFERENCES "public"."cycle"("code") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "room_booking" ADD CONSTRAINT "room_booking_room_room_code_fk" FOREIGN KEY ("room") REFERENCES "public"."room"("code") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "room_booking" ADD CONSTRAINT "room_booking_by_principal_id_fk" FOREIGN KEY ("by") REFERENCES "public"."principal"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "venue" ADD CONSTRAINT "venue_city_city_code_fk" FOREIGN KEY ("city") REFERENCES "public"."city"("code") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "room_by_venue" ON "room" USING btree ("venue");--> statement-breakpoint
CREATE INDEX "venue_by_city" ON "venue" USING btree ("city");