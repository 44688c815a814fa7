ALTER TYPE "public"."log_act" ADD VALUE 'decide-request' BEFORE 'sign-in';--> statement-breakpoint
CREATE TABLE "request_decision" (
	"id" uuid PRIMARY KEY NOT NULL,
	"application_id" uuid NOT NULL,
	"request" text NOT NULL,
	"word" text NOT NULL,
	"reason" text NOT NULL,
	"basis" text NOT NULL,
	"by" uuid NOT NULL,
	"at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
ALTER TABLE "application" ADD COLUMN "requests" jsonb DEFAULT '{}'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "request_decision" ADD CONSTRAINT "request_decision_application_id_application_id_fk" FOREIGN KEY ("application_id") REFERENCES "public"."application"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "request_decision" ADD CONSTRAINT "request_decision_by_principal_id_fk" FOREIGN KEY ("by") REFERENCES "public"."principal"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "request_decision_by_application" ON "request_decision" USING btree ("application_id","at");--> statement-breakpoint
CREATE TRIGGER look_again_after_request AFTER INSERT ON request_decision REFERENCING NEW TABLE AS touched FOR EACH STATEMENT EXECUTE FUNCTION scrutiny_look_again();--> statement-breakpoint
-- Everything that an application can be filtered by; since now what was granted and declined, too.
CREATE OR REPLACE FUNCTION roster_tags(a application) RETURNS text[] LANGUAGE plpgsql STABLE AS $$
DECLARE found text[];
BEGIN
  SELECT array_agg(DISTINCT tag ORDER BY tag) INTO found FROM (
    SELECT unnest(ARRAY['at:' || a.headline, 'form:' || a.form, 'fee:' || a.fee, 'scrutiny:' || a.scrutiny, 'placement:' || a.placement, 'card:' || a.card,
      'from:' || CASE WHEN a.institution_id IS NOT NULL THEN 'institution' WHEN a.owner_id IS NOT NULL THEN 'candidate' ELSE 'office' END]) AS tag
    UNION ALL SELECT 'q:' || q.question || '=' || left(v.value, 60) FROM roster_question q, LATERAL (
      SELECT a.answers ->> q.question AS value WHERE jsonb_typeof(a.answers -> q.question) = 'string'
      UNION ALL SELECT jsonb_array_elements_text(CASE jsonb_typeof(a.answers -> q.question) WHEN 'array' THEN a.answers -> q.question ELSE '[]'::jsonb END)) v
      WHERE q.cycle = a.cycle AND v.value <> ''
    UNION ALL SELECT 'first:' || q.question || '=' || left(a.answers -> q.question ->> 0, 60) FROM roster_question q WHERE q.cycle = a.cycle AND jsonb_typeof(a.answers -> q.question) = 'array'
    UNION ALL SELECT 'false:' || jsonb_array_elements_text(a.false_claims)
    UNION ALL SELECT 'asked:' || r.key || '=' || (r.value ->> 'word') FROM jsonb_each(a.requests) r
    UNION ALL SELECT 'matter:' || kind || '|' || owner FROM open_matter WHERE application_id = a.id AND cleared_at IS NULL
    UNION ALL SELECT 'doubt:' || unnest(doubts) FROM scrutiny_case WHERE application_id = a.id
    UNION ALL SELECT 'lane:' || lane FROM scrutiny_case WHERE application_id = a.id AND lane IS NOT NULL
    UNION ALL (SELECT 'by:' || d.by FROM scrutiny_decision d WHERE d.application_id = a.id ORDER BY d.at DESC LIMIT 1)
    UNION ALL SELECT 'found:' || (f ->> 'code') || '=' || (f ->> 'verdict') FROM (
      SELECT DISTINCT ON (kind) findings FROM image WHERE application_id = a.id AND state <> 'refused' ORDER BY kind, version DESC) i, jsonb_array_elements(i.findings) f WHERE f ->> 'verdict' <> 'pass'
  ) t WHERE tag IS NOT NULL;
  RETURN found;
END $$;
