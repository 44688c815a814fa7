-- Principals: every "by", actor and subject holds an id from here on. Names that were written until now are matched with the staff; a name that
-- nobody or several people have becomes a principal of its own.
CREATE TYPE "public"."log_act" AS ENUM('begin', 'save-answers', 'add-file', 'delete-draft', 'submit', 'take-back-submission', 'withdraw', 'bring-back', 'open-for-correction', 'close-correction', 'hand-in-correction', 'lapse', 'assess-fee', 'start-payment', 'payment-settled', 'payment-refused', 'payment-ended', 'accept', 'return', 'refuse', 'take-back-acceptance', 'recall-return', 'take-back-refusal', 'reopen', 'back-to-scrutiny', 'rule-on-claim', 'place', 'place-by-hand', 'release-by-hand', 'publish-seat', 'take-seat-back', 'issue-card', 'replace-card', 'void-card', 'withhold-card', 'let-card-go', 'sign-in', 'sign-out', 'end-session', 'change-password', 'set-second-factor', 'remove-second-factor', 'use-link', 'invite-staff', 'change-staff', 'deactivate-staff', 'activate-staff', 'make-link', 'change-office', 'put-notice', 'propose-notice', 'accept-review', 'discard-review', 'run-allocation', 'publish-run', 'load-demo', 'measure-file', 'refuse-file', 'propose-act', 'confirm-act', 'withdraw-proposal');
--> statement-breakpoint
CREATE TABLE "office_setting" (
	"name" text PRIMARY KEY NOT NULL,
	"value" jsonb NOT NULL,
	"by" uuid NOT NULL,
	"at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "one_time_link" (
	"token_hash" text PRIMARY KEY NOT NULL,
	"staff_id" uuid NOT NULL,
	"by" uuid NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"expires_at" timestamp with time zone NOT NULL,
	"used_at" timestamp with time zone
);
--> statement-breakpoint
CREATE TABLE "principal" (
	"id" uuid PRIMARY KEY NOT NULL,
	"kind" text NOT NULL,
	"name" text NOT NULL,
	"created_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "recovery_code" (
	"staff_id" uuid NOT NULL,
	"code_hash" text NOT NULL,
	"used_at" timestamp with time zone
);
--> statement-breakpoint
CREATE TABLE "session" (
	"token_hash" text PRIMARY KEY NOT NULL,
	"id" uuid NOT NULL,
	"principal_id" uuid NOT NULL,
	"csrf_token" text NOT NULL,
	"device" text DEFAULT '' NOT NULL,
	"created_at" timestamp with time zone NOT NULL,
	"last_seen_at" timestamp with time zone NOT NULL,
	"expires_at" timestamp with time zone NOT NULL,
	"revoked_at" timestamp with time zone,
	CONSTRAINT "session_id_unique" UNIQUE("id")
);
--> statement-breakpoint
CREATE TABLE "message" (
	"id" uuid PRIMARY KEY NOT NULL,
	"application_id" uuid NOT NULL,
	"cycle" text NOT NULL,
	"kind" text NOT NULL,
	"parameters" jsonb NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"sent_at" timestamp with time zone
);
--> statement-breakpoint
CREATE TABLE "open_matter" (
	"id" uuid PRIMARY KEY NOT NULL,
	"application_id" uuid NOT NULL,
	"cycle" text NOT NULL,
	"kind" text NOT NULL,
	"about" text NOT NULL,
	"owner" text NOT NULL,
	"holds" text NOT NULL,
	"parameters" jsonb NOT NULL,
	"since" timestamp with time zone NOT NULL,
	"until" timestamp with time zone,
	"cleared_at" timestamp with time zone,
	"cleared_by" uuid
);
--> statement-breakpoint
CREATE TABLE "proposal" (
	"id" uuid PRIMARY KEY NOT NULL,
	"cycle" text NOT NULL,
	"act" text NOT NULL,
	"subject" uuid NOT NULL,
	"reason" text NOT NULL,
	"outside_dates" boolean DEFAULT false NOT NULL,
	"input" jsonb NOT NULL,
	"state" text DEFAULT 'waiting' NOT NULL,
	"by" uuid NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"settled_by" uuid,
	"settled_at" timestamp with time zone
);
--> statement-breakpoint
CREATE TABLE "data_upgrade" (
	"name" text PRIMARY KEY NOT NULL,
	"at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
INSERT INTO "principal" ("id", "kind", "name", "created_at") VALUES
  ('00000000-0000-4000-8000-000000000001', 'product', 'Lucid Roster', now()), ('00000000-0000-4000-8000-000000000002', 'anybody', 'Anybody', now());
--> statement-breakpoint
INSERT INTO "principal" ("id", "kind", "name", "created_at") SELECT "id", 'staff', "display_name", now() FROM "staff";
--> statement-breakpoint
CREATE TABLE "name_upgrade" AS
SELECT n.name, CASE WHEN n.name IN ('system', 'gateway') THEN '00000000-0000-4000-8000-000000000001'::uuid WHEN n.name = 'nobody' THEN '00000000-0000-4000-8000-000000000002'::uuid
  WHEN (SELECT count(*) FROM "staff" s WHERE s.display_name = n.name) = 1 THEN (SELECT s.id FROM "staff" s WHERE s.display_name = n.name) ELSE gen_random_uuid() END AS id
FROM (SELECT "by" FROM "answer_change"
  UNION SELECT "by" FROM "image"
  UNION SELECT "by" FROM "admit_card"
  UNION SELECT "by" FROM "allocation_run"
  UNION SELECT "published_by" FROM "allocation_run"
  UNION SELECT "by" FROM "placement_lock"
  UNION SELECT "actor" FROM "audit_event"
  UNION SELECT "by" FROM "job"
  UNION SELECT "by" FROM "scrutiny_decision"
  UNION SELECT "by" FROM "claim_ruling"
  UNION SELECT "by" FROM "review"
  UNION SELECT "settled_by" FROM "review") AS n(name) WHERE n.name IS NOT NULL;
--> statement-breakpoint
INSERT INTO "principal" ("id", "kind", "name", "created_at") SELECT "id", 'staff', "name", now() FROM "name_upgrade" ON CONFLICT DO NOTHING;
--> statement-breakpoint
CREATE FUNCTION principal_upgrade(wanted text) RETURNS uuid LANGUAGE sql STABLE AS $$ SELECT id FROM name_upgrade WHERE name = wanted $$;
--> statement-breakpoint
DROP TABLE "staff_session" CASCADE;
--> statement-breakpoint
ALTER TABLE "staff" ALTER COLUMN "password_hash" DROP NOT NULL;
--> statement-breakpoint
ALTER TABLE "answer_change" ALTER COLUMN "by" SET DATA TYPE uuid USING principal_upgrade("by");
--> statement-breakpoint
ALTER TABLE "image" ALTER COLUMN "by" SET DATA TYPE uuid USING principal_upgrade("by");
--> statement-breakpoint
ALTER TABLE "admit_card" ALTER COLUMN "by" SET DATA TYPE uuid USING principal_upgrade("by");
--> statement-breakpoint
ALTER TABLE "allocation_run" ALTER COLUMN "by" SET DATA TYPE uuid USING principal_upgrade("by");
--> statement-breakpoint
ALTER TABLE "allocation_run" ALTER COLUMN "published_by" SET DATA TYPE uuid USING principal_upgrade("published_by");
--> statement-breakpoint
ALTER TABLE "placement_lock" ALTER COLUMN "by" SET DATA TYPE uuid USING principal_upgrade("by");
--> statement-breakpoint
ALTER TABLE "job" ALTER COLUMN "by" SET DATA TYPE uuid USING principal_upgrade("by");
--> statement-breakpoint
ALTER TABLE "scrutiny_decision" ALTER COLUMN "by" SET DATA TYPE uuid USING principal_upgrade("by");
--> statement-breakpoint
ALTER TABLE "claim_ruling" ALTER COLUMN "by" SET DATA TYPE uuid USING principal_upgrade("by");
--> statement-breakpoint
ALTER TABLE "review" ALTER COLUMN "by" SET DATA TYPE uuid USING principal_upgrade("by");
--> statement-breakpoint
ALTER TABLE "review" ALTER COLUMN "settled_by" SET DATA TYPE uuid USING principal_upgrade("settled_by");
--> statement-breakpoint
ALTER TABLE "job" ALTER COLUMN "error" SET DATA TYPE jsonb USING CASE WHEN "error" IS NULL THEN NULL ELSE jsonb_build_object('code', 'fault', 'parameters', '{}'::jsonb, 'message', "error") END;
--> statement-breakpoint
ALTER TABLE "staff" ADD COLUMN "venues" text[] DEFAULT '{}' NOT NULL;
--> statement-breakpoint
ALTER TABLE "staff" ADD COLUMN "totp_secret" text;
--> statement-breakpoint
ALTER TABLE "staff" ADD COLUMN "totp_last_step" bigint DEFAULT 0 NOT NULL;
--> statement-breakpoint
ALTER TABLE "application" ADD COLUMN "owner_id" uuid;
--> statement-breakpoint
ALTER TABLE "application" ADD COLUMN "institution_id" uuid;
--> statement-breakpoint
ALTER TABLE "application" ADD COLUMN "open_until" timestamp with time zone;
--> statement-breakpoint
ALTER TABLE "application" ADD COLUMN "opened_items" jsonb;
--> statement-breakpoint
ALTER TABLE "application" ADD COLUMN "opened_at" timestamp with time zone;
--> statement-breakpoint
ALTER TABLE "application" ADD COLUMN "card_hold" text;
--> statement-breakpoint
ALTER TABLE "admit_card" ADD COLUMN "content" jsonb NOT NULL DEFAULT 'null';
--> statement-breakpoint
ALTER TABLE "admit_card" ALTER COLUMN "content" DROP DEFAULT;
--> statement-breakpoint
ALTER TABLE "admit_card" ADD COLUMN "void_at" timestamp with time zone;
--> statement-breakpoint
ALTER TABLE "scrutiny_decision" ADD COLUMN "answer_until" timestamp with time zone;
--> statement-breakpoint
UPDATE "admit_card" SET "void_at" = "replaced_at";
--> statement-breakpoint
UPDATE "scrutiny_decision" SET "answer_until" = ("answer_by" || 'T23:59:00Z')::timestamptz WHERE "answer_by" IS NOT NULL;
--> statement-breakpoint
-- From here on scrutiny waits only from when the fee no longer keeps an application.
UPDATE "application" SET "scrutiny" = 'not started' WHERE "form" = 'submitted' AND "scrutiny" = 'waiting' AND "fee" IN ('due', 'confirming', 'not assessed');
--> statement-breakpoint
UPDATE "application" a SET "opened_at" = d."at", "open_until" = d."answer_until" FROM (
  SELECT DISTINCT ON ("application_id") "application_id", "at", "answer_until" FROM "scrutiny_decision" WHERE "decision" = 'return' ORDER BY "application_id", "at" DESC
) d WHERE d."application_id" = a."id" AND a."form" = 'correcting';
--> statement-breakpoint
ALTER TABLE "audit_event" DISABLE TRIGGER "audit_event_append_only";
--> statement-breakpoint
ALTER TABLE "audit_event" ADD COLUMN "act" "log_act", ADD COLUMN "subject_kind" text, ADD COLUMN "cycle" text, ADD COLUMN "reason" text, ADD COLUMN "outside_dates" boolean DEFAULT false NOT NULL;
--> statement-breakpoint
UPDATE "audit_event" e SET
  "act" = (CASE e."action"
    WHEN 'register' THEN 'begin'
    WHEN 'change answers' THEN 'save-answers'
    WHEN 'submit' THEN 'submit'
    WHEN 'withdraw' THEN 'withdraw'
    WHEN 'accept' THEN 'accept'
    WHEN 'return' THEN 'return'
    WHEN 'refuse' THEN 'refuse'
    WHEN 'assess fee' THEN 'assess-fee'
    WHEN 'open payment' THEN 'start-payment'
    WHEN 'payment charged' THEN 'payment-settled'
    WHEN 'payment declined' THEN 'payment-refused'
    WHEN 'payment expired' THEN 'payment-ended'
    WHEN 'find claim false' THEN 'rule-on-claim'
    WHEN 'let claim stand' THEN 'rule-on-claim'
    WHEN 'back to scrutiny' THEN 'back-to-scrutiny'
    WHEN 'run allocation' THEN 'run-allocation'
    WHEN 'publish run' THEN 'publish-run'
    WHEN 'seat published' THEN 'publish-seat'
    WHEN 'place by hand' THEN 'place-by-hand'
    WHEN 'release placement by hand' THEN 'release-by-hand'
    WHEN 'issue card' THEN 'issue-card'
    WHEN 'withhold card' THEN 'withhold-card'
    WHEN 'put notice in force' THEN 'put-notice'
    WHEN 'propose notice' THEN 'propose-notice'
    WHEN 'accept review' THEN 'accept-review'
    WHEN 'discard review' THEN 'discard-review'
    WHEN 'sign in' THEN 'sign-in'
    WHEN 'sign out' THEN 'sign-out'
    WHEN 'load demo' THEN 'load-demo'
    ELSE CASE split_part(e."action", ' ', 1) WHEN 'add' THEN 'add-file' WHEN 'measure' THEN 'measure-file' ELSE 'refuse-file' END END)::log_act,
  "after" = CASE WHEN e."action" ~ '^(add|measure|refuse) ' THEN e."after" || jsonb_build_object('slot', regexp_replace(e."action", '^\S+ ', '')) ELSE e."after" END,
  "reason" = e."after" ->> 'reason',
  "actor" = principal_upgrade(e."actor")::text,
  "subject_kind" = split_part(e."subject", ':', 1),
  "subject" = coalesce(CASE split_part(e."subject", ':', 1)
    WHEN 'application' THEN (SELECT a."id"::text FROM "application" a WHERE a."number" = split_part(e."subject", ':', 2))
    WHEN 'run' THEN (SELECT r."id"::text FROM "allocation_run" r WHERE r."cycle" || '/' || r."serial" = split_part(e."subject", ':', 2))
    WHEN 'staff' THEN principal_upgrade(e."actor")::text END, split_part(e."subject", ':', 2)),
  "cycle" = CASE split_part(e."subject", ':', 1)
    WHEN 'application' THEN (SELECT a."cycle" FROM "application" a WHERE a."number" = split_part(e."subject", ':', 2))
    WHEN 'staff' THEN NULL ELSE split_part(split_part(e."subject", ':', 2), '/', 1) END;
--> statement-breakpoint
ALTER TABLE "audit_event" ALTER COLUMN "actor" SET DATA TYPE uuid USING "actor"::uuid, ALTER COLUMN "act" SET NOT NULL, ALTER COLUMN "subject_kind" SET NOT NULL, DROP COLUMN "action";
--> statement-breakpoint
ALTER TABLE "audit_event" ENABLE TRIGGER "audit_event_append_only";
--> statement-breakpoint
DROP FUNCTION principal_upgrade;
--> statement-breakpoint
DROP TABLE "name_upgrade";
--> statement-breakpoint
ALTER TABLE "staff" DROP COLUMN "display_name";
--> statement-breakpoint
ALTER TABLE "admit_card" DROP COLUMN "replaced_at";
--> statement-breakpoint
ALTER TABLE "scrutiny_decision" DROP COLUMN "answer_by";
--> statement-breakpoint
ALTER TABLE "office_setting" ADD CONSTRAINT "office_setting_by_principal_id_fk" FOREIGN KEY ("by") REFERENCES "public"."principal"("id") ON DELETE no action ON UPDATE no action;
--> statement-breakpoint
ALTER TABLE "one_time_link" ADD CONSTRAINT "one_time_link_staff_id_staff_id_fk" FOREIGN KEY ("staff_id") REFERENCES "public"."staff"("id") ON DELETE no action ON UPDATE no action;
--> statement-breakpoint
ALTER TABLE "one_time_link" ADD CONSTRAINT "one_time_link_by_principal_id_fk" FOREIGN KEY ("by") REFERENCES "public"."principal"("id") ON DELETE no action ON UPDATE no action;
--> statement-breakpoint
ALTER TABLE "recovery_code" ADD CONSTRAINT "recovery_code_staff_id_staff_id_fk" FOREIGN KEY ("staff_id") REFERENCES "public"."staff"("id") ON DELETE no action ON UPDATE no action;
--> statement-breakpoint
ALTER TABLE "session" ADD CONSTRAINT "session_principal_id_principal_id_fk" FOREIGN KEY ("principal_id") REFERENCES "public"."principal"("id") ON DELETE no action ON UPDATE no action;
--> statement-breakpoint
ALTER TABLE "message" ADD CONSTRAINT "message_application_id_application_id_fk" FOREIGN KEY ("application_id") REFERENCES "public"."application"("id") ON DELETE cascade ON UPDATE no action;
--> statement-breakpoint
ALTER TABLE "open_matter" ADD CONSTRAINT "open_matter_application_id_application_id_fk" FOREIGN KEY ("application_id") REFERENCES "public"."application"("id") ON DELETE cascade ON UPDATE no action;
--> statement-breakpoint
ALTER TABLE "open_matter" ADD CONSTRAINT "open_matter_cleared_by_principal_id_fk" FOREIGN KEY ("cleared_by") REFERENCES "public"."principal"("id") ON DELETE no action ON UPDATE no action;
--> statement-breakpoint
ALTER TABLE "proposal" ADD CONSTRAINT "proposal_by_principal_id_fk" FOREIGN KEY ("by") REFERENCES "public"."principal"("id") ON DELETE no action ON UPDATE no action;
--> statement-breakpoint
ALTER TABLE "proposal" ADD CONSTRAINT "proposal_settled_by_principal_id_fk" FOREIGN KEY ("settled_by") REFERENCES "public"."principal"("id") ON DELETE no action ON UPDATE no action;
--> statement-breakpoint
ALTER TABLE "staff" ADD CONSTRAINT "staff_id_principal_id_fk" FOREIGN KEY ("id") REFERENCES "public"."principal"("id") ON DELETE no action ON UPDATE no action;
--> statement-breakpoint
ALTER TABLE "answer_change" ADD CONSTRAINT "answer_change_by_principal_id_fk" FOREIGN KEY ("by") REFERENCES "public"."principal"("id") ON DELETE no action ON UPDATE no action;
--> statement-breakpoint
ALTER TABLE "application" ADD CONSTRAINT "application_owner_id_principal_id_fk" FOREIGN KEY ("owner_id") REFERENCES "public"."principal"("id") ON DELETE no action ON UPDATE no action;
--> statement-breakpoint
ALTER TABLE "application" ADD CONSTRAINT "application_institution_id_principal_id_fk" FOREIGN KEY ("institution_id") REFERENCES "public"."principal"("id") ON DELETE no action ON UPDATE no action;
--> statement-breakpoint
ALTER TABLE "image" ADD CONSTRAINT "image_by_principal_id_fk" FOREIGN KEY ("by") REFERENCES "public"."principal"("id") ON DELETE no action ON UPDATE no action;
--> statement-breakpoint
ALTER TABLE "admit_card" ADD CONSTRAINT "admit_card_by_principal_id_fk" FOREIGN KEY ("by") REFERENCES "public"."principal"("id") ON DELETE no action ON UPDATE no action;
--> statement-breakpoint
ALTER TABLE "allocation_run" ADD CONSTRAINT "allocation_run_by_principal_id_fk" FOREIGN KEY ("by") REFERENCES "public"."principal"("id") ON DELETE no action ON UPDATE no action;
--> statement-breakpoint
ALTER TABLE "allocation_run" ADD CONSTRAINT "allocation_run_published_by_principal_id_fk" FOREIGN KEY ("published_by") REFERENCES "public"."principal"("id") ON DELETE no action ON UPDATE no action;
--> statement-breakpoint
ALTER TABLE "placement_lock" ADD CONSTRAINT "placement_lock_by_principal_id_fk" FOREIGN KEY ("by") REFERENCES "public"."principal"("id") ON DELETE no action ON UPDATE no action;
--> statement-breakpoint
ALTER TABLE "audit_event" ADD CONSTRAINT "audit_event_actor_principal_id_fk" FOREIGN KEY ("actor") REFERENCES "public"."principal"("id") ON DELETE no action ON UPDATE no action;
--> statement-breakpoint
ALTER TABLE "job" ADD CONSTRAINT "job_by_principal_id_fk" FOREIGN KEY ("by") REFERENCES "public"."principal"("id") ON DELETE no action ON UPDATE no action;
--> statement-breakpoint
ALTER TABLE "scrutiny_decision" ADD CONSTRAINT "scrutiny_decision_by_principal_id_fk" FOREIGN KEY ("by") REFERENCES "public"."principal"("id") ON DELETE no action ON UPDATE no action;
--> statement-breakpoint
ALTER TABLE "claim_ruling" ADD CONSTRAINT "claim_ruling_by_principal_id_fk" FOREIGN KEY ("by") REFERENCES "public"."principal"("id") ON DELETE no action ON UPDATE no action;
--> statement-breakpoint
ALTER TABLE "review" ADD CONSTRAINT "review_by_principal_id_fk" FOREIGN KEY ("by") REFERENCES "public"."principal"("id") ON DELETE no action ON UPDATE no action;
--> statement-breakpoint
ALTER TABLE "review" ADD CONSTRAINT "review_settled_by_principal_id_fk" FOREIGN KEY ("settled_by") REFERENCES "public"."principal"("id") ON DELETE no action ON UPDATE no action;
--> statement-breakpoint
CREATE INDEX "one_time_link_by_staff" ON "one_time_link" USING btree ("staff_id");
--> statement-breakpoint
CREATE UNIQUE INDEX "recovery_code_key" ON "recovery_code" USING btree ("staff_id","code_hash");
--> statement-breakpoint
CREATE INDEX "session_by_principal" ON "session" USING btree ("principal_id");
--> statement-breakpoint
CREATE INDEX "message_by_application" ON "message" USING btree ("application_id","at");
--> statement-breakpoint
CREATE INDEX "message_to_send" ON "message" USING btree ("at") WHERE "message"."sent_at" is null;
--> statement-breakpoint
CREATE UNIQUE INDEX "open_matter_one" ON "open_matter" USING btree ("application_id","kind","about") WHERE "open_matter"."cleared_at" is null;
--> statement-breakpoint
CREATE INDEX "open_matter_by_last_day" ON "open_matter" USING btree ("cycle","kind","until","id") WHERE "open_matter"."cleared_at" is null;
--> statement-breakpoint
CREATE UNIQUE INDEX "proposal_one" ON "proposal" USING btree ("act","subject") WHERE "proposal"."state" = 'waiting';
--> statement-breakpoint
CREATE INDEX "proposal_by_cycle" ON "proposal" USING btree ("cycle","state","at");
--> statement-breakpoint
CREATE INDEX "audit_event_outside_dates" ON "audit_event" USING btree ("cycle","id") WHERE "audit_event"."outside_dates";
--> statement-breakpoint
CREATE INDEX "job_live" ON "job" USING btree ("updated_at") WHERE "job"."state" in ('waiting', 'running');
--> statement-breakpoint
CREATE INDEX "image_waiting" ON "image" USING btree ("at") WHERE "image"."state" = 'waiting';
--> statement-breakpoint
-- Work that an older program left under way is not known by what it was asked with: it is started again by whoever wants it.
UPDATE "job" SET "state" = 'failed', "error" = '{"code": "work.not-started", "parameters": {}, "message": "The program was renewed while this was under way. Start it again."}' WHERE "state" IN ('waiting', 'running');
--> statement-breakpoint
UPDATE "review" SET "state" = 'discarded', "settled_at" = now() WHERE "state" = 'running';
