CREATE TABLE "roll_serial" (
	"cycle" text NOT NULL,
	"city" text NOT NULL,
	"last" integer NOT NULL
);
--> statement-breakpoint
ALTER TABLE "roll_serial" ADD CONSTRAINT "roll_serial_cycle_cycle_code_fk" FOREIGN KEY ("cycle") REFERENCES "public"."cycle"("code") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "roll_serial_key" ON "roll_serial" USING btree ("cycle","city");--> statement-breakpoint
INSERT INTO "roll_serial" ("cycle", "city", "last") SELECT "cycle", "city", count(*) FROM "seat" GROUP BY "cycle", "city";
