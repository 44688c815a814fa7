ALTER TABLE "message" ADD COLUMN "unseen" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "message" ADD COLUMN "seen_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "letter" ADD COLUMN "tells" uuid[] DEFAULT '{}' NOT NULL;--> statement-breakpoint
-- Everything that an application can be filtered by; since now what its people were told and have not looked at, too.
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
    UNION ALL SELECT 'unread:' || CASE WHEN a.owner_id IS NULL THEN 'no-account' ELSE kind END FROM message WHERE application_id = a.id AND unseen AND announcement_id IS NULL AND a.erased_at IS NULL
    UNION ALL SELECT 'doubt:' || unnest(doubts) FROM scrutiny_case WHERE application_id = a.id
    UNION ALL SELECT 'lane:' || lane FROM scrutiny_case WHERE application_id = a.id AND lane IS NOT NULL
    UNION ALL (SELECT 'by:' || d.by FROM scrutiny_decision d WHERE d.application_id = a.id ORDER BY d.at DESC LIMIT 1)
    UNION ALL SELECT 'found:' || (f ->> 'code') || '=' || (f ->> 'verdict') FROM (
      SELECT DISTINCT ON (kind) findings FROM image WHERE application_id = a.id AND state <> 'refused' ORDER BY kind, version DESC) i, jsonb_array_elements(i.findings) f WHERE f ->> 'verdict' <> 'pass'
  ) t WHERE tag IS NOT NULL;
  RETURN found;
END $$;--> statement-breakpoint
-- What was told or looked at: the entry of the roster follows, and how many have not read a letter to many is kept by its id.
CREATE FUNCTION roster_touch_told() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  INSERT INTO roster_touched (transaction, application_id) SELECT DISTINCT pg_current_xact_id(), application_id FROM touched WHERE unseen AND announcement_id IS NULL ON CONFLICT DO NOTHING;
  INSERT INTO tally_change (cycle, tag, delta) SELECT cycle, 'unread-letter:' || announcement_id, count(*) FROM touched WHERE unseen AND announcement_id IS NOT NULL GROUP BY 1, 2;
  RETURN NULL;
END $$;--> statement-breakpoint
CREATE FUNCTION roster_touch_seen() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  INSERT INTO roster_touched (transaction, application_id) SELECT DISTINCT pg_current_xact_id(), n.application_id FROM touched n JOIN former o ON o.id = n.id WHERE n.unseen <> o.unseen AND n.announcement_id IS NULL ON CONFLICT DO NOTHING;
  INSERT INTO tally_change (cycle, tag, delta) SELECT n.cycle, 'unread-letter:' || n.announcement_id, sum(n.unseen::int - o.unseen::int) FROM touched n JOIN former o ON o.id = n.id
    WHERE n.unseen <> o.unseen AND n.announcement_id IS NOT NULL GROUP BY 1, 2;
  RETURN NULL;
END $$;--> statement-breakpoint
CREATE FUNCTION tally_told_gone() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  INSERT INTO tally_change (cycle, tag, delta) SELECT cycle, 'unread-letter:' || announcement_id, -count(*) FROM touched WHERE unseen AND announcement_id IS NOT NULL GROUP BY 1, 2;
  RETURN NULL;
END $$;--> statement-breakpoint
CREATE TRIGGER roster_told AFTER INSERT ON message REFERENCING NEW TABLE AS touched FOR EACH STATEMENT EXECUTE FUNCTION roster_touch_told();--> statement-breakpoint
CREATE TRIGGER roster_seen AFTER UPDATE ON message REFERENCING OLD TABLE AS former NEW TABLE AS touched FOR EACH STATEMENT EXECUTE FUNCTION roster_touch_seen();--> statement-breakpoint
CREATE TRIGGER tally_told_gone AFTER DELETE ON message REFERENCING OLD TABLE AS touched FOR EACH STATEMENT EXECUTE FUNCTION tally_told_gone();
