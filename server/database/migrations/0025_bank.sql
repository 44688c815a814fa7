ALTER TYPE "public"."log_act" ADD VALUE 'payment-taken-back' BEFORE 'sign-in';--> statement-breakpoint
ALTER TYPE "public"."log_act" ADD VALUE 'refund-sent' BEFORE 'sign-in';--> statement-breakpoint
ALTER TYPE "public"."log_act" ADD VALUE 'refund-returned' BEFORE 'sign-in';--> statement-breakpoint
ALTER TYPE "public"."log_act" ADD VALUE 'change-bank-account';--> statement-breakpoint
ALTER TYPE "public"."log_act" ADD VALUE 'read-statement';--> statement-breakpoint
ALTER TYPE "public"."log_act" ADD VALUE 'match-line';--> statement-breakpoint
ALTER TYPE "public"."log_act" ADD VALUE 'unmatch-line';--> statement-breakpoint
ALTER TYPE "public"."log_act" ADD VALUE 'read-settlement';--> statement-breakpoint
ALTER TYPE "public"."log_act" ADD VALUE 'close-day';--> statement-breakpoint
ALTER TYPE "public"."log_act" ADD VALUE 'propose-refund';--> statement-breakpoint
ALTER TYPE "public"."log_act" ADD VALUE 'approve-refund';--> statement-breakpoint
ALTER TYPE "public"."log_act" ADD VALUE 'withdraw-refund';--> statement-breakpoint
ALTER TYPE "public"."log_act" ADD VALUE 'send-refunds';--> statement-breakpoint
CREATE TABLE "bank_account" (
	"id" uuid PRIMARY KEY NOT NULL,
	"title" text NOT NULL,
	"holder" text NOT NULL,
	"bank" text NOT NULL,
	"number" text NOT NULL,
	"bic" text NOT NULL,
	"currency" text NOT NULL,
	"takes_deposits" boolean NOT NULL,
	"mapping" jsonb,
	"by" uuid NOT NULL,
	"at" timestamp with time zone NOT NULL,
	CONSTRAINT "bank_account_number_unique" UNIQUE("number")
);
--> statement-breakpoint
CREATE TABLE "bank_line" (
	"id" uuid PRIMARY KEY NOT NULL,
	"statement_id" uuid NOT NULL,
	"account_id" uuid NOT NULL,
	"position" integer NOT NULL,
	"booked_on" text NOT NULL,
	"value_on" text,
	"amount" bigint NOT NULL,
	"currency" text NOT NULL,
	"reference" text,
	"text" text NOT NULL,
	"name" text,
	"counter_account" text,
	"bank_reference" text,
	"is_reversal" boolean NOT NULL,
	"digest" text,
	"state" text DEFAULT 'open' NOT NULL,
	"best" integer
);
--> statement-breakpoint
CREATE TABLE "bank_match" (
	"id" uuid PRIMARY KEY NOT NULL,
	"line_id" uuid NOT NULL,
	"explanation" text NOT NULL,
	"step" text,
	"score" integer,
	"reasons" jsonb NOT NULL,
	"parts" jsonb NOT NULL,
	"settlement_id" uuid,
	"refunds" jsonb DEFAULT '[]'::jsonb NOT NULL,
	"by" uuid NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"undone_by" uuid,
	"undone_at" timestamp with time zone
);
--> statement-breakpoint
CREATE TABLE "bank_statement" (
	"id" uuid PRIMARY KEY NOT NULL,
	"account_id" uuid NOT NULL,
	"format" text NOT NULL,
	"identification" text NOT NULL,
	"sequence" integer,
	"digest" text NOT NULL,
	"sha256" text NOT NULL,
	"name" text NOT NULL,
	"first_on" text NOT NULL,
	"last_on" text NOT NULL,
	"opening" bigint,
	"closing" bigint,
	"lines" integer NOT NULL,
	"known" integer NOT NULL,
	"gaps" jsonb NOT NULL,
	"by" uuid NOT NULL,
	"at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "day_closing" (
	"id" uuid PRIMARY KEY NOT NULL,
	"day" text NOT NULL,
	"currency" text NOT NULL,
	"view" jsonb NOT NULL,
	"note" text NOT NULL,
	"by" uuid NOT NULL,
	"at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "payment_file" (
	"id" uuid PRIMARY KEY NOT NULL,
	"account_id" uuid NOT NULL,
	"reference" text NOT NULL,
	"currency" text NOT NULL,
	"payments" integer NOT NULL,
	"sum" bigint NOT NULL,
	"sha256" text NOT NULL,
	"by" uuid NOT NULL,
	"at" timestamp with time zone NOT NULL,
	CONSTRAINT "payment_file_reference_unique" UNIQUE("reference")
);
--> statement-breakpoint
CREATE TABLE "refund" (
	"id" uuid PRIMARY KEY NOT NULL,
	"reference" text NOT NULL,
	"application_id" uuid NOT NULL,
	"amount" bigint NOT NULL,
	"currency" text NOT NULL,
	"payee" text NOT NULL,
	"number" text NOT NULL,
	"reason" text NOT NULL,
	"state" text NOT NULL,
	"by" uuid NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"settled_by" uuid,
	"settled_at" timestamp with time zone,
	"file_id" uuid,
	CONSTRAINT "refund_reference_unique" UNIQUE("reference")
);
--> statement-breakpoint
CREATE TABLE "settlement" (
	"id" uuid PRIMARY KEY NOT NULL,
	"reference" text NOT NULL,
	"settled_on" text NOT NULL,
	"currency" text NOT NULL,
	"gross" bigint NOT NULL,
	"charges" bigint NOT NULL,
	"net" bigint NOT NULL,
	"lines" integer NOT NULL,
	"digest" text NOT NULL,
	"sha256" text NOT NULL,
	"by" uuid NOT NULL,
	"at" timestamp with time zone NOT NULL,
	CONSTRAINT "settlement_reference_unique" UNIQUE("reference")
);
--> statement-breakpoint
CREATE TABLE "settlement_line" (
	"settlement_id" uuid NOT NULL,
	"position" integer NOT NULL,
	"gateway_order" text NOT NULL,
	"gross" bigint NOT NULL,
	"charge" bigint NOT NULL,
	"fault" text
);
--> statement-breakpoint
CREATE TABLE "standin_bank_day" (
	"account" text NOT NULL,
	"sequence" integer NOT NULL,
	"made" jsonb NOT NULL,
	"at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
ALTER TABLE "standin_gateway_order" ADD COLUMN "payout" text;--> statement-breakpoint
ALTER TABLE "bank_account" ADD CONSTRAINT "bank_account_by_principal_id_fk" FOREIGN KEY ("by") REFERENCES "public"."principal"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "bank_line" ADD CONSTRAINT "bank_line_statement_id_bank_statement_id_fk" FOREIGN KEY ("statement_id") REFERENCES "public"."bank_statement"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "bank_line" ADD CONSTRAINT "bank_line_account_id_bank_account_id_fk" FOREIGN KEY ("account_id") REFERENCES "public"."bank_account"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "bank_match" ADD CONSTRAINT "bank_match_line_id_bank_line_id_fk" FOREIGN KEY ("line_id") REFERENCES "public"."bank_line"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "bank_match" ADD CONSTRAINT "bank_match_by_principal_id_fk" FOREIGN KEY ("by") REFERENCES "public"."principal"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "bank_match" ADD CONSTRAINT "bank_match_undone_by_principal_id_fk" FOREIGN KEY ("undone_by") REFERENCES "public"."principal"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "bank_statement" ADD CONSTRAINT "bank_statement_account_id_bank_account_id_fk" FOREIGN KEY ("account_id") REFERENCES "public"."bank_account"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "bank_statement" ADD CONSTRAINT "bank_statement_sha256_file_sha256_fk" FOREIGN KEY ("sha256") REFERENCES "public"."file"("sha256") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "bank_statement" ADD CONSTRAINT "bank_statement_by_principal_id_fk" FOREIGN KEY ("by") REFERENCES "public"."principal"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "day_closing" ADD CONSTRAINT "day_closing_by_principal_id_fk" FOREIGN KEY ("by") REFERENCES "public"."principal"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "payment_file" ADD CONSTRAINT "payment_file_account_id_bank_account_id_fk" FOREIGN KEY ("account_id") REFERENCES "public"."bank_account"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "payment_file" ADD CONSTRAINT "payment_file_sha256_file_sha256_fk" FOREIGN KEY ("sha256") REFERENCES "public"."file"("sha256") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "payment_file" ADD CONSTRAINT "payment_file_by_principal_id_fk" FOREIGN KEY ("by") REFERENCES "public"."principal"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "refund" ADD CONSTRAINT "refund_application_id_application_id_fk" FOREIGN KEY ("application_id") REFERENCES "public"."application"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "refund" ADD CONSTRAINT "refund_by_principal_id_fk" FOREIGN KEY ("by") REFERENCES "public"."principal"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "refund" ADD CONSTRAINT "refund_settled_by_principal_id_fk" FOREIGN KEY ("settled_by") REFERENCES "public"."principal"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "refund" ADD CONSTRAINT "refund_file_id_payment_file_id_fk" FOREIGN KEY ("file_id") REFERENCES "public"."payment_file"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "settlement" ADD CONSTRAINT "settlement_sha256_file_sha256_fk" FOREIGN KEY ("sha256") REFERENCES "public"."file"("sha256") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "settlement" ADD CONSTRAINT "settlement_by_principal_id_fk" FOREIGN KEY ("by") REFERENCES "public"."principal"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "settlement_line" ADD CONSTRAINT "settlement_line_settlement_id_settlement_id_fk" FOREIGN KEY ("settlement_id") REFERENCES "public"."settlement"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "bank_line_by_statement" ON "bank_line" USING btree ("statement_id","position");--> statement-breakpoint
CREATE UNIQUE INDEX "bank_line_once" ON "bank_line" USING btree ("account_id","digest");--> statement-breakpoint
CREATE INDEX "bank_line_open" ON "bank_line" USING btree ("booked_on","id") WHERE "bank_line"."state" = 'open';--> statement-breakpoint
CREATE INDEX "bank_line_by_day" ON "bank_line" USING btree ("account_id","booked_on");--> statement-breakpoint
CREATE UNIQUE INDEX "bank_match_in_force" ON "bank_match" USING btree ("line_id") WHERE "bank_match"."undone_at" is null;--> statement-breakpoint
CREATE INDEX "bank_match_by_step" ON "bank_match" USING btree ("step");--> statement-breakpoint
CREATE UNIQUE INDEX "bank_statement_once" ON "bank_statement" USING btree ("account_id","digest");--> statement-breakpoint
CREATE INDEX "bank_statement_by_day" ON "bank_statement" USING btree ("account_id","last_on");--> statement-breakpoint
CREATE UNIQUE INDEX "day_closing_once" ON "day_closing" USING btree ("day","currency");--> statement-breakpoint
CREATE INDEX "refund_by_application" ON "refund" USING btree ("application_id");--> statement-breakpoint
CREATE INDEX "refund_by_state" ON "refund" USING btree ("state","at");--> statement-breakpoint
CREATE UNIQUE INDEX "settlement_line_place" ON "settlement_line" USING btree ("settlement_id","position");--> statement-breakpoint
CREATE INDEX "settlement_line_by_order" ON "settlement_line" USING btree ("gateway_order");--> statement-breakpoint
CREATE UNIQUE INDEX "standin_bank_day_once" ON "standin_bank_day" USING btree ("account","sequence");--> statement-breakpoint
CREATE INDEX "application_by_words" ON "application" USING gin (to_tsvector('simple', "name_key"));--> statement-breakpoint
CREATE INDEX "ledger_transaction_by_time" ON "ledger_transaction" USING btree ("at","id");