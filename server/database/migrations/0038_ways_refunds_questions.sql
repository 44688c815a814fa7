ALTER TYPE "public"."log_act" ADD VALUE 'ask-question' BEFORE 'sign-in';--> statement-breakpoint
ALTER TYPE "public"."log_act" ADD VALUE 'answer-question' BEFORE 'sign-in';--> statement-breakpoint
ALTER TYPE "public"."log_act" ADD VALUE 'give-account' BEFORE 'sign-in';--> statement-breakpoint
ALTER TYPE "public"."log_act" ADD VALUE 'look-up-standing';--> statement-breakpoint
CREATE TABLE "standin_gateway_refund" (
	"reference" text PRIMARY KEY NOT NULL,
	"gateway_order" text NOT NULL,
	"amount" bigint NOT NULL,
	"currency" text NOT NULL,
	"state" text NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"payout" text
);
--> statement-breakpoint
CREATE TABLE "refund_account" (
	"application_id" uuid PRIMARY KEY NOT NULL,
	"payee" text NOT NULL,
	"number" text NOT NULL,
	"by" uuid NOT NULL,
	"at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "office_question" (
	"id" uuid PRIMARY KEY NOT NULL,
	"application_id" uuid NOT NULL,
	"cycle" text NOT NULL,
	"about" text NOT NULL,
	"text" text NOT NULL,
	"by" uuid NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"due_at" timestamp with time zone NOT NULL,
	"holder" uuid,
	"answer" text,
	"answered_by" uuid,
	"answered_at" timestamp with time zone
);
--> statement-breakpoint
ALTER TABLE "refund" ALTER COLUMN "application_id" DROP NOT NULL;--> statement-breakpoint
ALTER TABLE "application" ADD COLUMN "channel_charges" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "payment" ADD COLUMN "way" text;--> statement-breakpoint
ALTER TABLE "payment" ADD COLUMN "charge" bigint DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "payment" ADD COLUMN "tax" bigint DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "refund" ADD COLUMN "line_id" uuid;--> statement-breakpoint
ALTER TABLE "refund" ADD COLUMN "event_id" text;--> statement-breakpoint
ALTER TABLE "refund" ADD COLUMN "gateway_order" text;--> statement-breakpoint
ALTER TABLE "refund_account" ADD CONSTRAINT "refund_account_application_id_application_id_fk" FOREIGN KEY ("application_id") REFERENCES "public"."application"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "refund_account" ADD CONSTRAINT "refund_account_by_principal_id_fk" FOREIGN KEY ("by") REFERENCES "public"."principal"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "office_question" ADD CONSTRAINT "office_question_application_id_application_id_fk" FOREIGN KEY ("application_id") REFERENCES "public"."application"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "office_question" ADD CONSTRAINT "office_question_by_principal_id_fk" FOREIGN KEY ("by") REFERENCES "public"."principal"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "office_question" ADD CONSTRAINT "office_question_holder_principal_id_fk" FOREIGN KEY ("holder") REFERENCES "public"."principal"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "office_question" ADD CONSTRAINT "office_question_answered_by_principal_id_fk" FOREIGN KEY ("answered_by") REFERENCES "public"."principal"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "standin_gateway_refund_by_order" ON "standin_gateway_refund" USING btree ("gateway_order");--> statement-breakpoint
CREATE INDEX "office_question_of" ON "office_question" USING btree ("application_id","at");--> statement-breakpoint
CREATE INDEX "office_question_waiting" ON "office_question" USING btree ("cycle","at","id") WHERE "office_question"."answered_at" is null;--> statement-breakpoint
ALTER TABLE "refund" ADD CONSTRAINT "refund_line_id_bank_line_id_fk" FOREIGN KEY ("line_id") REFERENCES "public"."bank_line"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "refund_by_order" ON "refund" USING btree ("gateway_order");--> statement-breakpoint
CREATE UNIQUE INDEX "refund_of_event" ON "refund" USING btree ("event_id") WHERE "refund"."state" not in ('withdrawn', 'returned');--> statement-breakpoint
-- What was earned stood on one account; from now on it stands by clause. Assessments in force say what of it belongs where.
WITH moved AS (
  SELECT a.id AS application, f.assessment -> 'currency' ->> 'code' AS currency, gen_random_uuid() AS transaction, part.account, part.amount
  FROM application a
  JOIN LATERAL (SELECT assessment FROM fee_assessment WHERE application_id = a.id ORDER BY version DESC LIMIT 1) f ON true
  JOIN LATERAL (
    SELECT account, sum(amount) AS amount FROM (
      SELECT CASE i -> 'because' ->> 'code' WHEN 'late' THEN 'late fee income' WHEN 'correction' THEN 'correction charges' WHEN 'channel' THEN 'surcharges' END AS account, (i ->> 'amount')::bigint AS amount
      FROM jsonb_array_elements(f.assessment -> 'items') i
    ) item WHERE account IS NOT NULL GROUP BY account HAVING sum(amount) <> 0
  ) part ON true
), booked AS (
  INSERT INTO ledger_transaction (id, application_id, source, kind, currency, at)
  SELECT transaction, application, 'by-clause:' || application || ':' || account, 'assessment', currency, now() FROM moved RETURNING id
)
INSERT INTO ledger_line (id, transaction_id, account, amount)
SELECT gen_random_uuid(), transaction, side.account, side.amount
FROM moved JOIN booked ON booked.id = moved.transaction CROSS JOIN LATERAL (VALUES (moved.account, -moved.amount), ('fee income', moved.amount)) AS side(account, amount);
