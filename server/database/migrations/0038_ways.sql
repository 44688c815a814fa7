ALTER TABLE "application" ADD COLUMN "channel_charges" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "payment" ADD COLUMN "way" text;--> statement-breakpoint
ALTER TABLE "payment" ADD COLUMN "charge" bigint DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "payment" ADD COLUMN "tax" bigint DEFAULT 0 NOT NULL;--> statement-breakpoint
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
