CREATE TABLE "contact" (
	"id" uuid PRIMARY KEY NOT NULL,
	"principal_id" uuid NOT NULL,
	"channel" text NOT NULL,
	"address" text NOT NULL,
	"proved_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "letter" (
	"id" uuid PRIMARY KEY NOT NULL,
	"principal_id" uuid,
	"channel" text NOT NULL,
	"address" text NOT NULL,
	"subject" text NOT NULL,
	"body" text NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"state" text DEFAULT 'waiting' NOT NULL,
	"settled_at" timestamp with time zone
);
--> statement-breakpoint
CREATE TABLE "one_time_code" (
	"id" uuid PRIMARY KEY NOT NULL,
	"channel" text NOT NULL,
	"address" text NOT NULL,
	"code_hash" text NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"expires_at" timestamp with time zone NOT NULL,
	"tries" integer DEFAULT 0 NOT NULL,
	"used_at" timestamp with time zone
);
--> statement-breakpoint
ALTER TABLE "contact" ADD CONSTRAINT "contact_principal_id_principal_id_fk" FOREIGN KEY ("principal_id") REFERENCES "public"."principal"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "letter" ADD CONSTRAINT "letter_principal_id_principal_id_fk" FOREIGN KEY ("principal_id") REFERENCES "public"."principal"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "contact_address" ON "contact" USING btree ("channel","address");--> statement-breakpoint
CREATE INDEX "contact_by_principal" ON "contact" USING btree ("principal_id");--> statement-breakpoint
CREATE INDEX "letter_by_time" ON "letter" USING btree ("at","id");--> statement-breakpoint
CREATE INDEX "letter_by_principal" ON "letter" USING btree ("principal_id","at");--> statement-breakpoint
CREATE INDEX "letter_by_state" ON "letter" USING btree ("state","at");--> statement-breakpoint
CREATE INDEX "one_time_code_by_address" ON "one_time_code" USING btree ("channel","address","at");