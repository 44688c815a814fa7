ALTER TYPE "public"."log_act" ADD VALUE 'rotate-office-key';--> statement-breakpoint
ALTER TYPE "public"."log_act" ADD VALUE 'release-erasing';--> statement-breakpoint
ALTER TYPE "public"."log_act" ADD VALUE 'erase-cycle';--> statement-breakpoint
CREATE TABLE "erasure" (
	"cycle" text PRIMARY KEY NOT NULL,
	"reason" text NOT NULL,
	"by" uuid NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"done_at" timestamp with time zone,
	"applications" integer DEFAULT 0 NOT NULL,
	"files" integer DEFAULT 0 NOT NULL,
	"accounts" integer DEFAULT 0 NOT NULL
);
--> statement-breakpoint
ALTER TABLE "audit_event" ALTER COLUMN "salt" DROP NOT NULL;--> statement-breakpoint
ALTER TABLE "application" ADD COLUMN "erased_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "cycle" ADD COLUMN "erasing_since" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "erasure" ADD CONSTRAINT "erasure_cycle_cycle_code_fk" FOREIGN KEY ("cycle") REFERENCES "public"."cycle"("code") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "erasure" ADD CONSTRAINT "erasure_by_principal_id_fk" FOREIGN KEY ("by") REFERENCES "public"."principal"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
-- What a row of the log tells of people may be erased, together with its salt; all else of it stays as it was written.
CREATE FUNCTION audit_event_kept() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  IF TG_OP = 'UPDATE' AND NEW.salt IS NULL AND NEW.reason IS NULL AND NEW.before IS NULL AND NEW.after IS NULL
    AND to_jsonb(NEW) - '{salt,reason,before,after}'::text[] = to_jsonb(OLD) - '{salt,reason,before,after}'::text[] THEN
    RETURN NEW;
  END IF;
  RAISE EXCEPTION 'rows of audit_event are never changed or removed';
END $$;
--> statement-breakpoint
DROP TRIGGER audit_event_append_only ON audit_event;
--> statement-breakpoint
CREATE TRIGGER audit_event_append_only BEFORE UPDATE OR DELETE ON audit_event FOR EACH ROW EXECUTE FUNCTION audit_event_kept();
--> statement-breakpoint
-- A verdict whose facts were erased is the same verdict.
CREATE OR REPLACE FUNCTION keep_verdicts_changed() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  INSERT INTO verdict_history (application_id, post, verdict, clauses, facts_sha256, rules_sha256, at, notice_version)
  SELECT n.application_id, n.post, n.verdict, n.clauses, n.facts_sha256, n.rules_sha256, n.at, n.notice_version
  FROM becomes n JOIN was o USING (application_id, post)
  WHERE n.facts_sha256 <> '' AND (n.verdict, n.clauses, n.facts_sha256, n.rules_sha256) IS DISTINCT FROM (o.verdict, o.clauses, o.facts_sha256, o.rules_sha256);
  RETURN NULL;
END $$;
--> statement-breakpoint
-- A picture that was measured changes what is counted and sorted by; one that is erased changes nothing, and the role that erases may write neither.
CREATE FUNCTION roster_touch_measured() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  IF EXISTS (SELECT 1 FROM touched WHERE sha256 <> 'erased') THEN
    INSERT INTO roster_touched (transaction, application_id) SELECT DISTINCT pg_current_xact_id(), application_id FROM touched ON CONFLICT DO NOTHING;
    UPDATE scrutiny_case SET lane = NULL WHERE lane <> 'second look' AND application_id IN (SELECT application_id FROM touched);
  END IF;
  RETURN NULL;
END $$;
--> statement-breakpoint
DROP TRIGGER roster_image_measured ON image;
--> statement-breakpoint
DROP TRIGGER look_again_after_measuring ON image;
--> statement-breakpoint
CREATE TRIGGER roster_image_measured AFTER UPDATE ON image REFERENCING NEW TABLE AS touched FOR EACH STATEMENT EXECUTE FUNCTION roster_touch_measured();
--> statement-breakpoint
-- Bytes that nothing names any more are found by these.
CREATE INDEX "image_by_file" ON "image" USING btree ("sha256");
--> statement-breakpoint
CREATE INDEX "image_by_copy" ON "image" USING btree ("display_sha256");
--> statement-breakpoint
CREATE INDEX "roll_file_by_file" ON "roll_file" USING btree ("sha256");
