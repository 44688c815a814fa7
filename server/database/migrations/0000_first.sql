CREATE TABLE "sign_in_failure" (
	"id" uuid PRIMARY KEY NOT NULL,
	"key" text NOT NULL,
	"at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "staff" (
	"id" uuid PRIMARY KEY NOT NULL,
	"sign_in_name" text NOT NULL,
	"display_name" text NOT NULL,
	"password_hash" text NOT NULL,
	"roles" text[] NOT NULL,
	"active" boolean DEFAULT true NOT NULL,
	CONSTRAINT "staff_sign_in_name_unique" UNIQUE("sign_in_name")
);
--> statement-breakpoint
CREATE TABLE "staff_session" (
	"token_hash" text PRIMARY KEY NOT NULL,
	"staff_id" uuid NOT NULL,
	"csrf_token" text NOT NULL,
	"created_at" timestamp with time zone NOT NULL,
	"expires_at" timestamp with time zone NOT NULL,
	"revoked_at" timestamp with time zone
);
--> statement-breakpoint
CREATE TABLE "answer_change" (
	"id" uuid PRIMARY KEY NOT NULL,
	"application_id" uuid NOT NULL,
	"revision" integer NOT NULL,
	"question" text NOT NULL,
	"before" jsonb,
	"after" jsonb,
	"by" text NOT NULL,
	"at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "application" (
	"id" uuid PRIMARY KEY NOT NULL,
	"cycle" text NOT NULL,
	"number" text NOT NULL,
	"answers" jsonb NOT NULL,
	"revision" integer DEFAULT 0 NOT NULL,
	"form" text NOT NULL,
	"fee" text NOT NULL,
	"scrutiny" text NOT NULL,
	"placement" text NOT NULL,
	"card" text NOT NULL,
	"headline" text NOT NULL,
	"name_key" text DEFAULT '' NOT NULL,
	"mobile_key" text DEFAULT '' NOT NULL,
	"display_name" text DEFAULT '' NOT NULL,
	"headline_since" timestamp with time zone NOT NULL,
	"created_at" timestamp with time zone NOT NULL,
	"submitted_at" timestamp with time zone,
	"updated_at" timestamp with time zone NOT NULL,
	CONSTRAINT "application_number_unique" UNIQUE("number")
);
--> statement-breakpoint
CREATE TABLE "cycle" (
	"code" text PRIMARY KEY NOT NULL,
	"notice_version" integer NOT NULL,
	"last_serial" integer DEFAULT 0 NOT NULL
);
--> statement-breakpoint
CREATE TABLE "file" (
	"sha256" text PRIMARY KEY NOT NULL,
	"bytes" integer NOT NULL,
	"content" "bytea" NOT NULL
);
--> statement-breakpoint
CREATE TABLE "headline_change" (
	"id" uuid PRIMARY KEY NOT NULL,
	"application_id" uuid NOT NULL,
	"cycle" text NOT NULL,
	"from_headline" text,
	"to_headline" text NOT NULL,
	"at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "image" (
	"id" uuid PRIMARY KEY NOT NULL,
	"application_id" uuid NOT NULL,
	"kind" text NOT NULL,
	"version" integer NOT NULL,
	"sha256" text NOT NULL,
	"display_sha256" text NOT NULL,
	"format" text NOT NULL,
	"width" integer NOT NULL,
	"height" integer NOT NULL,
	"findings" jsonb NOT NULL,
	"by" text NOT NULL,
	"at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "notice_version" (
	"cycle" text NOT NULL,
	"version" integer NOT NULL,
	"document" jsonb NOT NULL,
	"sha256" text NOT NULL,
	"created_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "fee_assessment" (
	"id" uuid PRIMARY KEY NOT NULL,
	"application_id" uuid NOT NULL,
	"version" integer NOT NULL,
	"assessment" jsonb NOT NULL,
	"at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "gateway_event" (
	"event_id" text PRIMARY KEY NOT NULL,
	"gateway_order" text NOT NULL,
	"outcome" text NOT NULL,
	"deliveries" integer DEFAULT 1 NOT NULL,
	"first_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "ledger_line" (
	"id" uuid PRIMARY KEY NOT NULL,
	"transaction_id" uuid NOT NULL,
	"account" text NOT NULL,
	"amount" integer NOT NULL
);
--> statement-breakpoint
CREATE TABLE "ledger_transaction" (
	"id" uuid PRIMARY KEY NOT NULL,
	"application_id" uuid NOT NULL,
	"source" text NOT NULL,
	"at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "payment" (
	"id" uuid PRIMARY KEY NOT NULL,
	"application_id" uuid NOT NULL,
	"amount" integer NOT NULL,
	"currency" text NOT NULL,
	"state" text NOT NULL,
	"gateway_order" text NOT NULL,
	"opened_at" timestamp with time zone NOT NULL,
	"expires_at" timestamp with time zone NOT NULL,
	"closed_at" timestamp with time zone,
	CONSTRAINT "payment_gateway_order_unique" UNIQUE("gateway_order")
);
--> statement-breakpoint
CREATE TABLE "standin_gateway_order" (
	"id" text PRIMARY KEY NOT NULL,
	"amount" integer NOT NULL,
	"currency" text NOT NULL,
	"description" text NOT NULL,
	"return_to" text NOT NULL,
	"state" text NOT NULL,
	"event_id" text,
	"at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "admit_card" (
	"id" uuid PRIMARY KEY NOT NULL,
	"application_id" uuid NOT NULL,
	"version" integer NOT NULL,
	"code" text NOT NULL,
	"photograph_sha256" text NOT NULL,
	"signature_sha256" text NOT NULL,
	"by" text NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"replaced_at" timestamp with time zone
);
--> statement-breakpoint
CREATE TABLE "allocation_run" (
	"id" uuid PRIMARY KEY NOT NULL,
	"cycle" text NOT NULL,
	"serial" integer NOT NULL,
	"policy" jsonb NOT NULL,
	"inputs_sha256" text NOT NULL,
	"cost" integer NOT NULL,
	"bound" integer NOT NULL,
	"certified" boolean NOT NULL,
	"prices" jsonb NOT NULL,
	"summary" jsonb NOT NULL,
	"by" text NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"published_at" timestamp with time zone,
	"published_by" text
);
--> statement-breakpoint
CREATE TABLE "card_key" (
	"id" text PRIMARY KEY NOT NULL,
	"seed" "bytea" NOT NULL,
	"public_key" "bytea" NOT NULL,
	"created_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "run_placement" (
	"run_id" uuid NOT NULL,
	"application_id" uuid NOT NULL,
	"city" text,
	"choice" integer,
	"cost" integer NOT NULL
);
--> statement-breakpoint
CREATE TABLE "seat" (
	"application_id" uuid PRIMARY KEY NOT NULL,
	"cycle" text NOT NULL,
	"run_id" uuid NOT NULL,
	"city" text NOT NULL,
	"venue" text NOT NULL,
	"room" text NOT NULL,
	"session" text NOT NULL,
	"seat" integer NOT NULL,
	"accessible" boolean NOT NULL,
	"roll" text NOT NULL
);
--> statement-breakpoint
CREATE TABLE "audit_event" (
	"id" bigserial PRIMARY KEY NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"actor" text NOT NULL,
	"action" text NOT NULL,
	"subject" text NOT NULL,
	"before" jsonb,
	"after" jsonb,
	"request_id" text NOT NULL
);
--> statement-breakpoint
CREATE TABLE "job" (
	"id" uuid PRIMARY KEY NOT NULL,
	"kind" text NOT NULL,
	"cycle" text NOT NULL,
	"state" text NOT NULL,
	"done" integer DEFAULT 0 NOT NULL,
	"total" integer DEFAULT 0 NOT NULL,
	"result" jsonb,
	"error" text,
	"by" text NOT NULL,
	"created_at" timestamp with time zone NOT NULL,
	"updated_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "scrutiny_decision" (
	"id" uuid PRIMARY KEY NOT NULL,
	"application_id" uuid NOT NULL,
	"decision" text NOT NULL,
	"reasons" jsonb NOT NULL,
	"answer_by" text,
	"by" text NOT NULL,
	"at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
ALTER TABLE "staff_session" ADD CONSTRAINT "staff_session_staff_id_staff_id_fk" FOREIGN KEY ("staff_id") REFERENCES "public"."staff"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "answer_change" ADD CONSTRAINT "answer_change_application_id_application_id_fk" FOREIGN KEY ("application_id") REFERENCES "public"."application"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "application" ADD CONSTRAINT "application_cycle_cycle_code_fk" FOREIGN KEY ("cycle") REFERENCES "public"."cycle"("code") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "headline_change" ADD CONSTRAINT "headline_change_application_id_application_id_fk" FOREIGN KEY ("application_id") REFERENCES "public"."application"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "image" ADD CONSTRAINT "image_application_id_application_id_fk" FOREIGN KEY ("application_id") REFERENCES "public"."application"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "image" ADD CONSTRAINT "image_sha256_file_sha256_fk" FOREIGN KEY ("sha256") REFERENCES "public"."file"("sha256") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "image" ADD CONSTRAINT "image_display_sha256_file_sha256_fk" FOREIGN KEY ("display_sha256") REFERENCES "public"."file"("sha256") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "notice_version" ADD CONSTRAINT "notice_version_cycle_cycle_code_fk" FOREIGN KEY ("cycle") REFERENCES "public"."cycle"("code") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "fee_assessment" ADD CONSTRAINT "fee_assessment_application_id_application_id_fk" FOREIGN KEY ("application_id") REFERENCES "public"."application"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "ledger_line" ADD CONSTRAINT "ledger_line_transaction_id_ledger_transaction_id_fk" FOREIGN KEY ("transaction_id") REFERENCES "public"."ledger_transaction"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "ledger_transaction" ADD CONSTRAINT "ledger_transaction_application_id_application_id_fk" FOREIGN KEY ("application_id") REFERENCES "public"."application"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "payment" ADD CONSTRAINT "payment_application_id_application_id_fk" FOREIGN KEY ("application_id") REFERENCES "public"."application"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "admit_card" ADD CONSTRAINT "admit_card_application_id_application_id_fk" FOREIGN KEY ("application_id") REFERENCES "public"."application"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "allocation_run" ADD CONSTRAINT "allocation_run_cycle_cycle_code_fk" FOREIGN KEY ("cycle") REFERENCES "public"."cycle"("code") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "run_placement" ADD CONSTRAINT "run_placement_run_id_allocation_run_id_fk" FOREIGN KEY ("run_id") REFERENCES "public"."allocation_run"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "run_placement" ADD CONSTRAINT "run_placement_application_id_application_id_fk" FOREIGN KEY ("application_id") REFERENCES "public"."application"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "seat" ADD CONSTRAINT "seat_application_id_application_id_fk" FOREIGN KEY ("application_id") REFERENCES "public"."application"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "seat" ADD CONSTRAINT "seat_run_id_allocation_run_id_fk" FOREIGN KEY ("run_id") REFERENCES "public"."allocation_run"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "scrutiny_decision" ADD CONSTRAINT "scrutiny_decision_application_id_application_id_fk" FOREIGN KEY ("application_id") REFERENCES "public"."application"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "sign_in_failure_by_key" ON "sign_in_failure" USING btree ("key","at");--> statement-breakpoint
CREATE INDEX "staff_session_by_staff" ON "staff_session" USING btree ("staff_id");--> statement-breakpoint
CREATE INDEX "answer_change_by_application" ON "answer_change" USING btree ("application_id","revision");--> statement-breakpoint
CREATE INDEX "application_by_headline" ON "application" USING btree ("cycle","headline","number");--> statement-breakpoint
CREATE INDEX "application_by_fee" ON "application" USING btree ("cycle","fee","number");--> statement-breakpoint
CREATE INDEX "application_by_cycle" ON "application" USING btree ("cycle","number");--> statement-breakpoint
CREATE INDEX "application_by_wait" ON "application" USING btree ("cycle","headline","headline_since","id");--> statement-breakpoint
CREATE INDEX "application_by_name" ON "application" USING btree ("cycle","name_key" text_pattern_ops);--> statement-breakpoint
CREATE INDEX "application_by_mobile" ON "application" USING btree ("cycle","mobile_key" text_pattern_ops);--> statement-breakpoint
CREATE INDEX "headline_change_by_time" ON "headline_change" USING btree ("cycle","at");--> statement-breakpoint
CREATE UNIQUE INDEX "image_version" ON "image" USING btree ("application_id","kind","version");--> statement-breakpoint
CREATE UNIQUE INDEX "notice_version_key" ON "notice_version" USING btree ("cycle","version");--> statement-breakpoint
CREATE UNIQUE INDEX "fee_assessment_version" ON "fee_assessment" USING btree ("application_id","version");--> statement-breakpoint
CREATE INDEX "ledger_line_by_transaction" ON "ledger_line" USING btree ("transaction_id");--> statement-breakpoint
CREATE INDEX "ledger_line_by_account" ON "ledger_line" USING btree ("account");--> statement-breakpoint
CREATE UNIQUE INDEX "ledger_transaction_source" ON "ledger_transaction" USING btree ("source");--> statement-breakpoint
CREATE INDEX "ledger_transaction_by_application" ON "ledger_transaction" USING btree ("application_id");--> statement-breakpoint
CREATE INDEX "payment_by_application" ON "payment" USING btree ("application_id","opened_at");--> statement-breakpoint
CREATE UNIQUE INDEX "payment_one_open" ON "payment" USING btree ("application_id") WHERE "payment"."state" = 'open';--> statement-breakpoint
CREATE UNIQUE INDEX "admit_card_version" ON "admit_card" USING btree ("application_id","version");--> statement-breakpoint
CREATE UNIQUE INDEX "allocation_run_serial" ON "allocation_run" USING btree ("cycle","serial");--> statement-breakpoint
CREATE UNIQUE INDEX "run_placement_key" ON "run_placement" USING btree ("run_id","application_id");--> statement-breakpoint
CREATE INDEX "run_placement_by_city" ON "run_placement" USING btree ("run_id","city");--> statement-breakpoint
CREATE UNIQUE INDEX "seat_place" ON "seat" USING btree ("cycle","venue","room","session","seat");--> statement-breakpoint
CREATE UNIQUE INDEX "seat_roll" ON "seat" USING btree ("cycle","roll");--> statement-breakpoint
CREATE INDEX "audit_event_by_subject" ON "audit_event" USING btree ("subject","id");--> statement-breakpoint
CREATE INDEX "job_by_time" ON "job" USING btree ("cycle","created_at");--> statement-breakpoint
CREATE INDEX "scrutiny_decision_by_application" ON "scrutiny_decision" USING btree ("application_id","at");