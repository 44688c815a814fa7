CREATE EXTENSION IF NOT EXISTS pg_trgm;--> statement-breakpoint
CREATE TABLE "identity_key" (
	"cycle" text NOT NULL,
	"key" bigint NOT NULL,
	"application_id" uuid NOT NULL,
	CONSTRAINT "identity_key_cycle_key_application_id_pk" PRIMARY KEY("cycle","key","application_id")
);
--> statement-breakpoint
CREATE TABLE "likely_pair" (
	"id" uuid PRIMARY KEY NOT NULL,
	"cycle" text NOT NULL,
	"first" uuid NOT NULL,
	"second" uuid NOT NULL,
	"score" integer NOT NULL,
	"reasons" jsonb NOT NULL,
	"state" text DEFAULT 'open' NOT NULL,
	"found_at" timestamp with time zone NOT NULL,
	"reason" text,
	"stands" uuid,
	"by" uuid,
	"at" timestamp with time zone
);
--> statement-breakpoint
CREATE TABLE "name_word" (
	"word" text PRIMARY KEY NOT NULL,
	"latin" text
);
--> statement-breakpoint
CREATE TABLE "roster_entry" (
	"application_id" uuid PRIMARY KEY NOT NULL,
	"cycle" text NOT NULL,
	"number" text NOT NULL,
	"headline" text NOT NULL,
	"since" timestamp with time zone NOT NULL,
	"name_key" text NOT NULL,
	"mobile_key" text NOT NULL,
	"words" "tsvector" NOT NULL,
	"tags" text[] NOT NULL
);
--> statement-breakpoint
CREATE TABLE "roster_question" (
	"cycle" text NOT NULL,
	"question" text NOT NULL,
	CONSTRAINT "roster_question_cycle_question_pk" PRIMARY KEY("cycle","question")
);
--> statement-breakpoint
CREATE TABLE "roster_stale" (
	"cycle" text PRIMARY KEY NOT NULL,
	"after" text DEFAULT '' NOT NULL
);
--> statement-breakpoint
CREATE TABLE "roster_touched" (
	"transaction" "xid8" NOT NULL,
	"application_id" uuid NOT NULL,
	CONSTRAINT "roster_touched_transaction_application_id_pk" PRIMARY KEY("transaction","application_id")
);
--> statement-breakpoint
CREATE TABLE "scrutiny_case" (
	"application_id" uuid PRIMARY KEY NOT NULL,
	"cycle" text NOT NULL,
	"since" timestamp with time zone NOT NULL,
	"until" timestamp with time zone,
	"lane" text,
	"doubts" text[] NOT NULL,
	"first_by" uuid,
	"held_by" uuid,
	"held_until" timestamp with time zone
);
--> statement-breakpoint
CREATE TABLE "tally" (
	"cycle" text NOT NULL,
	"tag" text NOT NULL,
	"n" bigint NOT NULL,
	CONSTRAINT "tally_cycle_tag_pk" PRIMARY KEY("cycle","tag")
);
--> statement-breakpoint
CREATE TABLE "tally_change" (
	"id" bigserial PRIMARY KEY NOT NULL,
	"cycle" text NOT NULL,
	"tag" text NOT NULL,
	"delta" bigint NOT NULL
);
--> statement-breakpoint
DROP INDEX "application_by_wait";--> statement-breakpoint
DROP INDEX "application_by_mobile";--> statement-breakpoint
ALTER TABLE "application" ADD COLUMN "person_key" text;--> statement-breakpoint
ALTER TABLE "identity_key" ADD CONSTRAINT "identity_key_application_id_application_id_fk" FOREIGN KEY ("application_id") REFERENCES "public"."application"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "likely_pair" ADD CONSTRAINT "likely_pair_first_application_id_fk" FOREIGN KEY ("first") REFERENCES "public"."application"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "likely_pair" ADD CONSTRAINT "likely_pair_second_application_id_fk" FOREIGN KEY ("second") REFERENCES "public"."application"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "likely_pair" ADD CONSTRAINT "likely_pair_stands_application_id_fk" FOREIGN KEY ("stands") REFERENCES "public"."application"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "likely_pair" ADD CONSTRAINT "likely_pair_by_principal_id_fk" FOREIGN KEY ("by") REFERENCES "public"."principal"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "roster_question" ADD CONSTRAINT "roster_question_cycle_cycle_code_fk" FOREIGN KEY ("cycle") REFERENCES "public"."cycle"("code") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "scrutiny_case" ADD CONSTRAINT "scrutiny_case_first_by_principal_id_fk" FOREIGN KEY ("first_by") REFERENCES "public"."principal"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "scrutiny_case" ADD CONSTRAINT "scrutiny_case_held_by_principal_id_fk" FOREIGN KEY ("held_by") REFERENCES "public"."principal"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "identity_key_by_application" ON "identity_key" USING btree ("application_id");--> statement-breakpoint
CREATE UNIQUE INDEX "likely_pair_one" ON "likely_pair" USING btree ("first","second");--> statement-breakpoint
CREATE INDEX "likely_pair_second" ON "likely_pair" USING btree ("second");--> statement-breakpoint
CREATE INDEX "likely_pair_open" ON "likely_pair" USING btree ("cycle","score","id") WHERE "likely_pair"."state" = 'open';--> statement-breakpoint
CREATE INDEX "name_word_latin" ON "name_word" USING gin ("latin" gin_trgm_ops);--> statement-breakpoint
CREATE INDEX "name_word_new" ON "name_word" USING btree ("word") WHERE "name_word"."latin" is null;--> statement-breakpoint
CREATE INDEX "roster_by_number" ON "roster_entry" USING btree ("cycle","number");--> statement-breakpoint
CREATE INDEX "roster_by_since" ON "roster_entry" USING btree ("cycle","since","application_id");--> statement-breakpoint
CREATE INDEX "roster_by_headline" ON "roster_entry" USING btree ("cycle","headline","number");--> statement-breakpoint
CREATE INDEX "roster_by_wait" ON "roster_entry" USING btree ("cycle","headline","since","application_id");--> statement-breakpoint
CREATE INDEX "roster_by_mobile" ON "roster_entry" USING btree ("cycle","mobile_key" text_pattern_ops);--> statement-breakpoint
CREATE INDEX "roster_by_tags" ON "roster_entry" USING gin ("tags");--> statement-breakpoint
CREATE INDEX "roster_by_words" ON "roster_entry" USING gin ("words");--> statement-breakpoint
CREATE INDEX "scrutiny_case_in_turn" ON "scrutiny_case" USING btree ("cycle","lane","until","since","application_id");--> statement-breakpoint
CREATE INDEX "scrutiny_case_in_hand" ON "scrutiny_case" USING btree ("held_by") WHERE "scrutiny_case"."held_by" is not null;--> statement-breakpoint
CREATE INDEX "scrutiny_case_new" ON "scrutiny_case" USING btree ("cycle","since") WHERE "scrutiny_case"."lane" is null;--> statement-breakpoint
CREATE INDEX "tally_change_by_tag" ON "tally_change" USING btree ("cycle","tag");--> statement-breakpoint
CREATE UNIQUE INDEX "application_one_person" ON "application" USING btree ("cycle","person_key") WHERE "application"."person_key" is not null and "application"."scrutiny" = 'accepted' and "application"."form" in ('submitted', 'correcting');--> statement-breakpoint
CREATE INDEX "payment_open" ON "payment" USING btree ("opened_at") WHERE "payment"."state" = 'open';--> statement-breakpoint
CREATE INDEX "admit_card_in_force" ON "admit_card" USING btree ("at") WHERE "admit_card"."void_at" is null;--> statement-breakpoint
-- Numbers and tags are compared by their bytes, whatever the database's language: pages by key and beginnings of numbers use one index.
ALTER TABLE roster_entry ALTER COLUMN number TYPE text COLLATE "C";--> statement-breakpoint
ALTER TABLE tally_change ALTER COLUMN tag TYPE text COLLATE "C";--> statement-breakpoint
ALTER TABLE tally ALTER COLUMN tag TYPE text COLLATE "C";--> statement-breakpoint
-- What a transaction has touched is worth nothing after it.
ALTER TABLE roster_touched SET UNLOGGED;--> statement-breakpoint
-- New entries go into the index at once: a list of late ones would make some readers slow.
ALTER INDEX roster_by_tags SET (fastupdate = off);--> statement-breakpoint
ALTER INDEX roster_by_words SET (fastupdate = off);--> statement-breakpoint

-- Everything that an application can be filtered by.
-- In plpgsql, which keeps its plans: as one of plain SQL it would be planned anew with every call.
CREATE FUNCTION roster_tags(a application) RETURNS text[] LANGUAGE plpgsql STABLE AS $$
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
    UNION ALL SELECT 'matter:' || kind || '|' || owner FROM open_matter WHERE application_id = a.id AND cleared_at IS NULL
    UNION ALL SELECT 'doubt:' || unnest(doubts) FROM scrutiny_case WHERE application_id = a.id
    UNION ALL SELECT 'lane:' || lane FROM scrutiny_case WHERE application_id = a.id AND lane IS NOT NULL
    UNION ALL (SELECT 'by:' || d.by FROM scrutiny_decision d WHERE d.application_id = a.id ORDER BY d.at DESC LIMIT 1)
    UNION ALL SELECT 'found:' || (f ->> 'code') || '=' || (f ->> 'verdict') FROM (
      SELECT DISTINCT ON (kind) findings FROM image WHERE application_id = a.id AND state <> 'refused' ORDER BY kind, version DESC) i, jsonb_array_elements(i.findings) f WHERE f ->> 'verdict' <> 'pass'
  ) t WHERE tag IS NOT NULL;
  RETURN found;
END $$;--> statement-breakpoint

-- Writes entries, cases and counts of some applications anew, as they stand now.
CREATE FUNCTION roster_write(ids uuid[]) RETURNS void LANGUAGE plpgsql AS $$
BEGIN
  -- Two that touched the same application count one after the other.
  PERFORM 1 FROM roster_entry WHERE application_id = ANY(ids) ORDER BY application_id FOR UPDATE;
  DELETE FROM scrutiny_case c WHERE c.application_id = ANY(ids) AND NOT EXISTS (SELECT 1 FROM application a WHERE a.id = c.application_id AND a.headline = 'in scrutiny');
  INSERT INTO scrutiny_case AS c (application_id, cycle, since, lane, doubts, first_by)
    SELECT id, cycle, headline_since, CASE WHEN first_by IS NOT NULL THEN 'second look' END, '{}', first_by FROM (
      SELECT a.id, a.cycle, a.headline_since, (SELECT p.by FROM proposal p WHERE p.subject = a.id AND p.state = 'waiting' AND p.act IN ('accept', 'refuse') LIMIT 1) AS first_by
      FROM application a WHERE a.id = ANY(ids) AND a.headline = 'in scrutiny') w
    ON CONFLICT (application_id) DO UPDATE SET since = excluded.since, first_by = excluded.first_by, held_by = CASE WHEN c.first_by IS DISTINCT FROM excluded.first_by THEN NULL ELSE c.held_by END,
      lane = CASE WHEN excluded.first_by IS NOT NULL THEN 'second look' WHEN c.lane = 'second look' THEN NULL ELSE c.lane END
    WHERE c.since <> excluded.since OR c.first_by IS DISTINCT FROM excluded.first_by;
  WITH fresh AS MATERIALIZED (
    SELECT a.id, a.cycle, a.number, a.headline, a.headline_since, a.name_key, a.mobile_key, roster_tags(a) AS tags FROM application a WHERE a.id = ANY(ids)
  ), old AS MATERIALIZED (
    SELECT application_id, cycle, name_key, tags FROM roster_entry WHERE application_id = ANY(ids)
  ), gone AS (
    DELETE FROM roster_entry WHERE application_id = ANY(ids) AND application_id NOT IN (SELECT id FROM fresh)
  ), counted AS (
    INSERT INTO tally_change (cycle, tag, delta) SELECT cycle, tag, sum(d) FROM (
      SELECT cycle, unnest(tags) AS tag, -1 AS d FROM old UNION ALL SELECT cycle, unnest(tags), 1 FROM fresh) x GROUP BY 1, 2 HAVING sum(d) <> 0
  ), spelt AS (
    INSERT INTO name_word (word) SELECT DISTINCT word FROM fresh LEFT JOIN old ON old.application_id = fresh.id, unnest(string_to_array(fresh.name_key, ' ')) AS word
      WHERE fresh.name_key IS DISTINCT FROM old.name_key AND length(word) BETWEEN 2 AND 60 ORDER BY 1 ON CONFLICT DO NOTHING
  )
  INSERT INTO roster_entry AS e (application_id, cycle, number, headline, since, name_key, mobile_key, words, tags)
    SELECT id, cycle, number, headline, headline_since, name_key, mobile_key, to_tsvector('simple', name_key), tags FROM fresh
    ON CONFLICT (application_id) DO UPDATE SET headline = excluded.headline, since = excluded.since, name_key = excluded.name_key, mobile_key = excluded.mobile_key, words = excluded.words, tags = excluded.tags
    WHERE (e.headline, e.since, e.name_key, e.mobile_key, e.tags) IS DISTINCT FROM (excluded.headline, excluded.since, excluded.name_key, excluded.mobile_key, excluded.tags);
END $$;--> statement-breakpoint

-- Once a transaction, at its end: however often it touched an application, its entry is written once.
CREATE FUNCTION roster_follow() RETURNS trigger LANGUAGE plpgsql AS $$
DECLARE ids uuid[];
BEGIN
  WITH gone AS (DELETE FROM roster_touched WHERE transaction = pg_current_xact_id() RETURNING application_id) SELECT array_agg(application_id ORDER BY application_id) INTO ids FROM gone;
  IF ids IS NOT NULL THEN PERFORM roster_write(ids); END IF;
  RETURN NULL;
END $$;--> statement-breakpoint
CREATE CONSTRAINT TRIGGER roster_follow AFTER INSERT ON roster_touched DEFERRABLE INITIALLY DEFERRED FOR EACH ROW EXECUTE FUNCTION roster_follow();--> statement-breakpoint

CREATE FUNCTION roster_touch() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  INSERT INTO roster_touched (transaction, application_id) SELECT DISTINCT pg_current_xact_id(), application_id FROM touched ON CONFLICT DO NOTHING;
  RETURN NULL;
END $$;--> statement-breakpoint
CREATE FUNCTION roster_touch_application() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  INSERT INTO roster_touched (transaction, application_id) SELECT pg_current_xact_id(), id FROM touched ON CONFLICT DO NOTHING;
  RETURN NULL;
END $$;--> statement-breakpoint
CREATE FUNCTION roster_touch_changed() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  INSERT INTO roster_touched (transaction, application_id) SELECT pg_current_xact_id(), n.id FROM touched n JOIN former o ON o.id = n.id
    WHERE (n.headline, n.form, n.fee, n.scrutiny, n.placement, n.card, n.headline_since, n.name_key, n.mobile_key, n.answers, n.false_claims, n.owner_id, n.institution_id)
      IS DISTINCT FROM (o.headline, o.form, o.fee, o.scrutiny, o.placement, o.card, o.headline_since, o.name_key, o.mobile_key, o.answers, o.false_claims, o.owner_id, o.institution_id) ON CONFLICT DO NOTHING;
  RETURN NULL;
END $$;--> statement-breakpoint
CREATE FUNCTION roster_touch_proposed() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  INSERT INTO roster_touched (transaction, application_id) SELECT DISTINCT pg_current_xact_id(), subject FROM touched WHERE act IN ('accept', 'refuse') ON CONFLICT DO NOTHING;
  RETURN NULL;
END $$;--> statement-breakpoint
CREATE TRIGGER roster_application_made AFTER INSERT ON application REFERENCING NEW TABLE AS touched FOR EACH STATEMENT EXECUTE FUNCTION roster_touch_application();--> statement-breakpoint
CREATE TRIGGER roster_application_changed AFTER UPDATE ON application REFERENCING OLD TABLE AS former NEW TABLE AS touched FOR EACH STATEMENT EXECUTE FUNCTION roster_touch_changed();--> statement-breakpoint
CREATE TRIGGER roster_application_gone AFTER DELETE ON application REFERENCING OLD TABLE AS touched FOR EACH STATEMENT EXECUTE FUNCTION roster_touch_application();--> statement-breakpoint
CREATE TRIGGER roster_matter_opened AFTER INSERT ON open_matter REFERENCING NEW TABLE AS touched FOR EACH STATEMENT EXECUTE FUNCTION roster_touch();--> statement-breakpoint
CREATE TRIGGER roster_matter_changed AFTER UPDATE ON open_matter REFERENCING NEW TABLE AS touched FOR EACH STATEMENT EXECUTE FUNCTION roster_touch();--> statement-breakpoint
CREATE TRIGGER roster_decided AFTER INSERT ON scrutiny_decision REFERENCING NEW TABLE AS touched FOR EACH STATEMENT EXECUTE FUNCTION roster_touch();--> statement-breakpoint
CREATE TRIGGER roster_image_kept AFTER INSERT ON image REFERENCING NEW TABLE AS touched FOR EACH STATEMENT EXECUTE FUNCTION roster_touch();--> statement-breakpoint
CREATE TRIGGER roster_image_measured AFTER UPDATE ON image REFERENCING NEW TABLE AS touched FOR EACH STATEMENT EXECUTE FUNCTION roster_touch();--> statement-breakpoint
CREATE TRIGGER roster_proposed AFTER INSERT ON proposal REFERENCING NEW TABLE AS touched FOR EACH STATEMENT EXECUTE FUNCTION roster_touch_proposed();--> statement-breakpoint
CREATE TRIGGER roster_proposal_settled AFTER UPDATE ON proposal REFERENCING NEW TABLE AS touched FOR EACH STATEMENT EXECUTE FUNCTION roster_touch_proposed();--> statement-breakpoint
CREATE FUNCTION roster_touch_case() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  INSERT INTO roster_touched (transaction, application_id) VALUES (pg_current_xact_id(), NEW.application_id) ON CONFLICT DO NOTHING;
  RETURN NULL;
END $$;--> statement-breakpoint
-- What `roster_write` does to cases itself, it has written into the entries already. Taking a case in hand touches no entry.
CREATE TRIGGER roster_case_sorted AFTER UPDATE OF lane, doubts ON scrutiny_case FOR EACH ROW WHEN (pg_trigger_depth() = 0 AND (OLD.lane, OLD.doubts) IS DISTINCT FROM (NEW.lane, NEW.doubts)) EXECUTE FUNCTION roster_touch_case();--> statement-breakpoint

-- What was found about a case since the machine looked at it lets it look again.
CREATE FUNCTION scrutiny_look_again() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  UPDATE scrutiny_case SET lane = NULL WHERE lane <> 'second look' AND application_id IN (SELECT application_id FROM touched);
  RETURN NULL;
END $$;--> statement-breakpoint
CREATE FUNCTION scrutiny_look_again_pair() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  UPDATE scrutiny_case SET lane = NULL WHERE lane <> 'second look' AND application_id IN (SELECT first FROM touched UNION SELECT second FROM touched);
  RETURN NULL;
END $$;--> statement-breakpoint
CREATE TRIGGER look_again_after_ruling AFTER INSERT ON claim_ruling REFERENCING NEW TABLE AS touched FOR EACH STATEMENT EXECUTE FUNCTION scrutiny_look_again();--> statement-breakpoint
CREATE TRIGGER look_again_after_measuring AFTER UPDATE ON image REFERENCING NEW TABLE AS touched FOR EACH STATEMENT EXECUTE FUNCTION scrutiny_look_again();--> statement-breakpoint
CREATE TRIGGER look_again_after_pair AFTER INSERT ON likely_pair REFERENCING NEW TABLE AS touched FOR EACH STATEMENT EXECUTE FUNCTION scrutiny_look_again_pair();--> statement-breakpoint
CREATE TRIGGER look_again_after_judging AFTER UPDATE ON likely_pair REFERENCING NEW TABLE AS touched FOR EACH STATEMENT EXECUTE FUNCTION scrutiny_look_again_pair();--> statement-breakpoint

-- Arrivals at each point of the flow by quarter of an hour: every zone's midnight lies between two of them.
CREATE FUNCTION tally_arrivals() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  INSERT INTO tally_change (cycle, tag, delta) SELECT cycle, 'came@' || lpad(floor(extract(epoch FROM at) / 900)::text, 8, '0') || ':' || to_headline, count(*) FROM touched GROUP BY 1, 2;
  RETURN NULL;
END $$;--> statement-breakpoint
CREATE TRIGGER tally_arrivals AFTER INSERT ON headline_change REFERENCING NEW TABLE AS touched FOR EACH STATEMENT EXECUTE FUNCTION tally_arrivals();--> statement-breakpoint
CREATE FUNCTION tally_departures() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  INSERT INTO tally_change (cycle, tag, delta) SELECT cycle, 'came@' || lpad(floor(extract(epoch FROM at) / 900)::text, 8, '0') || ':' || to_headline, -count(*) FROM touched GROUP BY 1, 2;
  RETURN NULL;
END $$;--> statement-breakpoint
CREATE TRIGGER tally_departures AFTER DELETE ON headline_change REFERENCING OLD TABLE AS touched FOR EACH STATEMENT EXECUTE FUNCTION tally_departures();--> statement-breakpoint
INSERT INTO tally (cycle, tag, n) SELECT cycle, 'came@' || lpad(floor(extract(epoch FROM at) / 900)::text, 8, '0') || ':' || to_headline, count(*) FROM headline_change GROUP BY 1, 2;--> statement-breakpoint

-- Balances of the ledger by account; what concerns no application is of no cycle.
CREATE FUNCTION tally_ledger() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  INSERT INTO tally_change (cycle, tag, delta) SELECT coalesce(a.cycle, ''), 'ledger:' || t.currency || ':' || l.account, sum(l.amount)
    FROM touched l JOIN ledger_transaction t ON t.id = l.transaction_id LEFT JOIN application a ON a.id = t.application_id GROUP BY 1, 2;
  RETURN NULL;
END $$;--> statement-breakpoint
CREATE TRIGGER tally_ledger AFTER INSERT ON ledger_line REFERENCING NEW TABLE AS touched FOR EACH STATEMENT EXECUTE FUNCTION tally_ledger();--> statement-breakpoint
INSERT INTO tally (cycle, tag, n) SELECT coalesce(a.cycle, ''), 'ledger:' || t.currency || ':' || l.account, sum(l.amount)
  FROM ledger_line l JOIN ledger_transaction t ON t.id = l.transaction_id LEFT JOIN application a ON a.id = t.application_id GROUP BY 1, 2;--> statement-breakpoint

-- Questions that are answered from a list follow the notice in force; entries of a cycle in which they changed are written anew, page by page.
CREATE FUNCTION roster_questions_of(code text) RETURNS void LANGUAGE plpgsql AS $$
DECLARE changed integer;
BEGIN
  WITH wanted AS (
    SELECT DISTINCT q ->> 'id' AS question FROM cycle c JOIN notice_version v ON v.cycle = c.code AND v.version = c.notice_version,
      jsonb_array_elements(CASE jsonb_typeof(v.document -> 'sections') WHEN 'array' THEN v.document -> 'sections' ELSE '[]'::jsonb END) s,
      jsonb_array_elements(CASE jsonb_typeof(s -> 'questions') WHEN 'array' THEN s -> 'questions' ELSE '[]'::jsonb END) q
    WHERE c.code = $1 AND q ->> 'kind' IN ('choice', 'posts', 'cities') AND q ->> 'id' IS NOT NULL
  ), gone AS (DELETE FROM roster_question r WHERE r.cycle = $1 AND r.question NOT IN (SELECT question FROM wanted) RETURNING 1),
  come AS (INSERT INTO roster_question (cycle, question) SELECT $1, question FROM wanted ON CONFLICT DO NOTHING RETURNING 1)
  SELECT (SELECT count(*) FROM gone) + (SELECT count(*) FROM come) INTO changed;
  IF changed > 0 AND EXISTS (SELECT 1 FROM application a WHERE a.cycle = $1) THEN
    INSERT INTO roster_stale (cycle) VALUES ($1) ON CONFLICT (cycle) DO UPDATE SET after = '';
  END IF;
END $$;--> statement-breakpoint
CREATE FUNCTION roster_notice_changed() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  PERFORM roster_questions_of(CASE TG_TABLE_NAME WHEN 'cycle' THEN to_jsonb(NEW) ->> 'code' ELSE to_jsonb(NEW) ->> 'cycle' END);
  RETURN NULL;
END $$;--> statement-breakpoint
CREATE TRIGGER roster_cycle_notice AFTER INSERT OR UPDATE OF notice_version ON cycle FOR EACH ROW EXECUTE FUNCTION roster_notice_changed();--> statement-breakpoint
CREATE TRIGGER roster_notice_kept AFTER INSERT ON notice_version FOR EACH ROW EXECUTE FUNCTION roster_notice_changed();--> statement-breakpoint
-- Applications that are there already: their entries are written when the program starts.
SELECT roster_questions_of(code) FROM cycle;
