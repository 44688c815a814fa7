ALTER TYPE "public"."log_act" ADD VALUE 'agree-amendment' BEFORE 'discard-review';--> statement-breakpoint
ALTER TYPE "public"."log_act" ADD VALUE 'move-dates' BEFORE 'discard-review';--> statement-breakpoint
CREATE TABLE "notice_in_force" (
	"cycle" text NOT NULL,
	"version" integer NOT NULL,
	"from_moment" timestamp with time zone NOT NULL,
	"fees" text NOT NULL,
	"reason" text,
	"by" uuid NOT NULL,
	CONSTRAINT "notice_in_force_cycle_version_pk" PRIMARY KEY("cycle","version")
);
--> statement-breakpoint
CREATE TABLE "review_fee" (
	"review_id" uuid NOT NULL,
	"application_id" uuid NOT NULL,
	"number" text NOT NULL,
	"before" integer NOT NULL,
	"after" integer NOT NULL,
	"received" integer NOT NULL,
	CONSTRAINT "review_fee_review_id_application_id_pk" PRIMARY KEY("review_id","application_id")
);
--> statement-breakpoint
ALTER TABLE "fee_assessment" ADD COLUMN "notice_version" integer;--> statement-breakpoint
ALTER TABLE "audit_event" ADD COLUMN "notice_version" integer;--> statement-breakpoint
ALTER TABLE "post_verdict" ADD COLUMN "notice_version" integer;--> statement-breakpoint
ALTER TABLE "review" ADD COLUMN "reason" text;--> statement-breakpoint
ALTER TABLE "review" ADD COLUMN "holds_from" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "review" ADD COLUMN "fees" text;--> statement-breakpoint
ALTER TABLE "notice_in_force" ADD CONSTRAINT "notice_in_force_by_principal_id_fk" FOREIGN KEY ("by") REFERENCES "public"."principal"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "notice_in_force" ADD CONSTRAINT "notice_in_force_cycle_version_notice_version_cycle_version_fk" FOREIGN KEY ("cycle","version") REFERENCES "public"."notice_version"("cycle","version") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "review_fee" ADD CONSTRAINT "review_fee_review_id_review_id_fk" FOREIGN KEY ("review_id") REFERENCES "public"."review"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "review_fee" ADD CONSTRAINT "review_fee_application_id_application_id_fk" FOREIGN KEY ("application_id") REFERENCES "public"."application"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "review_fee_by_number" ON "review_fee" USING btree ("review_id","number");--> statement-breakpoint
CREATE INDEX "review_agreed" ON "review" USING btree ("holds_from") WHERE "review"."state" = 'agreed';--> statement-breakpoint
-- What was in force until now stands in the log, and in the cycle's own row where the log does not tell.
INSERT INTO "notice_in_force" ("cycle", "version", "from_moment", "fees", "reason", "by")
SELECT v.cycle, v.version, min(e.at), 'anew', NULL, (array_agg(e.actor ORDER BY e.at))[1]
FROM "notice_version" v JOIN "audit_event" e ON e.subject_kind = 'cycle' AND e.subject = v.cycle AND (
  (e.act = 'put-notice' AND (e.after ->> 'version')::int = v.version) OR (e.act = 'accept-review' AND (e.after ->> 'notice')::int = v.version))
GROUP BY v.cycle, v.version;--> statement-breakpoint
INSERT INTO "notice_in_force" ("cycle", "version", "from_moment", "fees", "reason", "by")
SELECT v.cycle, v.version, v.created_at, 'anew', NULL, (SELECT id FROM "principal" WHERE kind = 'product' LIMIT 1)
FROM "notice_version" v JOIN "cycle" c ON c.code = v.cycle AND c.notice_version = v.version
ON CONFLICT DO NOTHING;--> statement-breakpoint
CREATE TRIGGER notice_in_force_append_only BEFORE UPDATE OR DELETE ON notice_in_force FOR EACH ROW EXECUTE FUNCTION append_only();
