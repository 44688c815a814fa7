CREATE TABLE "claim_ruling" (
	"id" uuid PRIMARY KEY NOT NULL,
	"application_id" uuid NOT NULL,
	"claim" text NOT NULL,
	"ruling" text NOT NULL,
	"reason" text NOT NULL,
	"by" text NOT NULL,
	"at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "post_verdict" (
	"application_id" uuid NOT NULL,
	"post" text NOT NULL,
	"verdict" text NOT NULL,
	"clauses" text NOT NULL,
	"facts_sha256" text NOT NULL,
	"rules_sha256" text NOT NULL,
	"at" timestamp with time zone NOT NULL,
	CONSTRAINT "post_verdict_application_id_post_pk" PRIMARY KEY("application_id","post")
);
--> statement-breakpoint
CREATE TABLE "review" (
	"id" uuid PRIMARY KEY NOT NULL,
	"cycle" text NOT NULL,
	"serial" integer NOT NULL,
	"notice_version" integer NOT NULL,
	"base_version" integer NOT NULL,
	"state" text NOT NULL,
	"totals" jsonb NOT NULL,
	"by" text NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"settled_by" text,
	"settled_at" timestamp with time zone
);
--> statement-breakpoint
CREATE TABLE "review_item" (
	"review_id" uuid NOT NULL,
	"application_id" uuid NOT NULL,
	"post" text NOT NULL,
	"number" text NOT NULL,
	"chosen" boolean NOT NULL,
	"before" text,
	"after" text NOT NULL,
	"clauses" text NOT NULL,
	"differs" boolean NOT NULL,
	"facts_sha256" text NOT NULL,
	"rules_sha256" text NOT NULL,
	CONSTRAINT "review_item_review_id_application_id_post_pk" PRIMARY KEY("review_id","application_id","post")
);
--> statement-breakpoint
ALTER TABLE "application" ADD COLUMN "false_claims" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "claim_ruling" ADD CONSTRAINT "claim_ruling_application_id_application_id_fk" FOREIGN KEY ("application_id") REFERENCES "public"."application"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "post_verdict" ADD CONSTRAINT "post_verdict_application_id_application_id_fk" FOREIGN KEY ("application_id") REFERENCES "public"."application"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "review" ADD CONSTRAINT "review_cycle_cycle_code_fk" FOREIGN KEY ("cycle") REFERENCES "public"."cycle"("code") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "review_item" ADD CONSTRAINT "review_item_review_id_review_id_fk" FOREIGN KEY ("review_id") REFERENCES "public"."review"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "review_item" ADD CONSTRAINT "review_item_application_id_application_id_fk" FOREIGN KEY ("application_id") REFERENCES "public"."application"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "claim_ruling_by_application" ON "claim_ruling" USING btree ("application_id","at");--> statement-breakpoint
CREATE UNIQUE INDEX "review_serial" ON "review" USING btree ("cycle","serial");--> statement-breakpoint
CREATE INDEX "review_item_by_number" ON "review_item" USING btree ("review_id","differs","number","post");