CREATE TABLE "receipt" (
	"id" uuid PRIMARY KEY NOT NULL,
	"year" integer NOT NULL,
	"serial" integer NOT NULL,
	"application_id" uuid NOT NULL,
	"amount" bigint NOT NULL,
	"currency" text NOT NULL,
	"items" jsonb NOT NULL,
	"code" text NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"void_at" timestamp with time zone
);
--> statement-breakpoint
CREATE TABLE "receipt_wanted" (
	"application_id" uuid PRIMARY KEY NOT NULL
);
--> statement-breakpoint
ALTER TABLE "receipt" ADD CONSTRAINT "receipt_application_id_application_id_fk" FOREIGN KEY ("application_id") REFERENCES "public"."application"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "receipt_wanted" ADD CONSTRAINT "receipt_wanted_application_id_application_id_fk" FOREIGN KEY ("application_id") REFERENCES "public"."application"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "receipt_number" ON "receipt" USING btree ("year","serial");--> statement-breakpoint
CREATE INDEX "receipt_by_application" ON "receipt" USING btree ("application_id","at");--> statement-breakpoint
-- Whoever lets a fee become settled, or be so no longer, wants its receipts looked at.
CREATE FUNCTION want_receipt() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  INSERT INTO receipt_wanted (application_id) VALUES (NEW.id) ON CONFLICT DO NOTHING;
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE TRIGGER application_fee_settled AFTER UPDATE OF fee ON application FOR EACH ROW
  WHEN (OLD.fee IS DISTINCT FROM NEW.fee AND (OLD.fee IN ('settled', 'refund due') OR NEW.fee IN ('settled', 'refund due'))) EXECUTE FUNCTION want_receipt();
--> statement-breakpoint
INSERT INTO receipt_wanted (application_id) SELECT id FROM application WHERE fee IN ('settled', 'refund due') ON CONFLICT DO NOTHING;
