ALTER TYPE "public"."log_act" ADD VALUE 'move-files';--> statement-breakpoint
ALTER TYPE "public"."log_act" ADD VALUE 'read-paper';--> statement-breakpoint
ALTER TYPE "public"."log_act" ADD VALUE 'rotate-card-key';--> statement-breakpoint
CREATE TABLE "verdict_history" (
	"id" bigserial PRIMARY KEY NOT NULL,
	"application_id" uuid NOT NULL,
	"post" text NOT NULL,
	"verdict" text NOT NULL,
	"clauses" text NOT NULL,
	"facts_sha256" text NOT NULL,
	"rules_sha256" text NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"notice_version" integer
);
--> statement-breakpoint
ALTER TABLE "verdict_history" ADD CONSTRAINT "verdict_history_application_id_application_id_fk" FOREIGN KEY ("application_id") REFERENCES "public"."application"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "verdict_history_by_application" ON "verdict_history" USING btree ("application_id","post","id");--> statement-breakpoint
INSERT INTO verdict_history (application_id, post, verdict, clauses, facts_sha256, rules_sha256, at, notice_version)
SELECT application_id, post, verdict, clauses, facts_sha256, rules_sha256, at, notice_version FROM post_verdict;--> statement-breakpoint
-- The verdict in force is one row; what was in force before stays, whichever statement put another in its place.
CREATE FUNCTION keep_verdicts_made() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  INSERT INTO verdict_history (application_id, post, verdict, clauses, facts_sha256, rules_sha256, at, notice_version)
  SELECT application_id, post, verdict, clauses, facts_sha256, rules_sha256, at, notice_version FROM made;
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE FUNCTION keep_verdicts_changed() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  INSERT INTO verdict_history (application_id, post, verdict, clauses, facts_sha256, rules_sha256, at, notice_version)
  SELECT n.application_id, n.post, n.verdict, n.clauses, n.facts_sha256, n.rules_sha256, n.at, n.notice_version
  FROM becomes n JOIN was o USING (application_id, post)
  WHERE (n.verdict, n.clauses, n.facts_sha256, n.rules_sha256) IS DISTINCT FROM (o.verdict, o.clauses, o.facts_sha256, o.rules_sha256);
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE TRIGGER post_verdict_made AFTER INSERT ON post_verdict REFERENCING NEW TABLE AS made FOR EACH STATEMENT EXECUTE FUNCTION keep_verdicts_made();
--> statement-breakpoint
CREATE TRIGGER post_verdict_changed AFTER UPDATE ON post_verdict REFERENCING OLD TABLE AS was NEW TABLE AS becomes FOR EACH STATEMENT EXECUTE FUNCTION keep_verdicts_changed();
