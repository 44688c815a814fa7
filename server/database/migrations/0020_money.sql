-- Amounts may pass 2,147,483,647 minor units.
ALTER TABLE "ledger_line" ALTER COLUMN "amount" SET DATA TYPE bigint;--> statement-breakpoint
ALTER TABLE "payment" ALTER COLUMN "amount" SET DATA TYPE bigint;--> statement-breakpoint
ALTER TABLE "standin_gateway_order" ALTER COLUMN "amount" SET DATA TYPE bigint;--> statement-breakpoint
-- An event is told with amount and currency, and one that was told otherwise before is kept beside the first.
ALTER TABLE "gateway_event" ADD COLUMN "digest" text;--> statement-breakpoint
ALTER TABLE "gateway_event" ADD COLUMN "amount" bigint;--> statement-breakpoint
ALTER TABLE "gateway_event" ADD COLUMN "currency" text;--> statement-breakpoint
ALTER TABLE "gateway_event" ADD COLUMN "fault" text;--> statement-breakpoint
UPDATE gateway_event SET digest = 'not kept';--> statement-breakpoint
ALTER TABLE "gateway_event" ALTER COLUMN "digest" SET NOT NULL;--> statement-breakpoint
ALTER TABLE "gateway_event" DROP CONSTRAINT "gateway_event_pkey";--> statement-breakpoint
ALTER TABLE "gateway_event" ADD CONSTRAINT "gateway_event_event_id_digest_pk" PRIMARY KEY("event_id","digest");--> statement-breakpoint
CREATE INDEX "gateway_event_by_order" ON "gateway_event" USING btree ("gateway_order");--> statement-breakpoint
CREATE INDEX "gateway_event_with_fault" ON "gateway_event" USING btree ("first_at") WHERE "gateway_event"."fault" is not null;--> statement-breakpoint
-- What is received is known by the kind of a transaction, no longer by the account that holds the money just now.
ALTER TABLE "ledger_transaction" ALTER COLUMN "application_id" DROP NOT NULL;--> statement-breakpoint
ALTER TABLE "ledger_transaction" ADD COLUMN "kind" text;--> statement-breakpoint
ALTER TABLE "ledger_transaction" ADD COLUMN "currency" text;--> statement-breakpoint
ALTER TABLE "ledger_transaction" DISABLE TRIGGER ledger_transaction_append_only;--> statement-breakpoint
UPDATE ledger_transaction t SET kind = CASE WHEN t.source LIKE 'assessment:%' THEN 'assessment' ELSE 'receipt' END,
  currency = coalesce((SELECT a.assessment -> 'currency' ->> 'code' FROM fee_assessment a WHERE a.application_id = t.application_id ORDER BY a.version LIMIT 1),
    (SELECT p.currency FROM payment p WHERE p.application_id = t.application_id LIMIT 1), 'XXX');--> statement-breakpoint
ALTER TABLE "ledger_transaction" ENABLE TRIGGER ledger_transaction_append_only;--> statement-breakpoint
ALTER TABLE "ledger_transaction" ALTER COLUMN "kind" SET NOT NULL;--> statement-breakpoint
ALTER TABLE "ledger_transaction" ALTER COLUMN "currency" SET NOT NULL;--> statement-breakpoint
-- What was paid too much stands apart from what is owed.
WITH credit AS (
  SELECT t.application_id AS id, min(t.currency) AS currency, sum(l.amount) AS balance FROM ledger_line l JOIN ledger_transaction t ON t.id = l.transaction_id
  WHERE l.account = 'receivable' GROUP BY t.application_id HAVING sum(l.amount) < 0),
booked AS (
  INSERT INTO ledger_transaction (id, application_id, source, kind, currency, at) SELECT gen_random_uuid(), id, 'surplus:upgrade:' || id, 'surplus', currency, now() FROM credit
  RETURNING id, application_id)
INSERT INTO ledger_line (id, transaction_id, account, amount)
SELECT gen_random_uuid(), booked.id, line.account, line.amount FROM booked JOIN credit ON credit.id = booked.application_id
CROSS JOIN LATERAL (VALUES ('receivable', -credit.balance), ('refunds payable', credit.balance)) AS line(account, amount);--> statement-breakpoint
SET CONSTRAINTS ALL IMMEDIATE;
