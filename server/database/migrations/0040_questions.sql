ALTER TYPE "public"."log_act" ADD VALUE 'ask-question' BEFORE 'sign-in';--> statement-breakpoint
ALTER TYPE "public"."log_act" ADD VALUE 'answer-question' BEFORE 'sign-in';--> statement-breakpoint
CREATE TABLE "office_question" (
	"id" uuid PRIMARY KEY NOT NULL,
	"application_id" uuid NOT NULL,
	"cycle" text NOT NULL,
	"about" text NOT NULL,
	"text" text NOT NULL,
	"by" uuid NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"due_at" timestamp with time zone NOT NULL,
	"holder" uuid,
	"answer" text,
	"answered_by" uuid,
	"answered_at" timestamp with time zone
);
--> statement-breakpoint
ALTER TABLE "office_question" ADD CONSTRAINT "office_question_application_id_application_id_fk" FOREIGN KEY ("application_id") REFERENCES "public"."application"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "office_question" ADD CONSTRAINT "office_question_by_principal_id_fk" FOREIGN KEY ("by") REFERENCES "public"."principal"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "office_question" ADD CONSTRAINT "office_question_holder_principal_id_fk" FOREIGN KEY ("holder") REFERENCES "public"."principal"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "office_question" ADD CONSTRAINT "office_question_answered_by_principal_id_fk" FOREIGN KEY ("answered_by") REFERENCES "public"."principal"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "office_question_of" ON "office_question" USING btree ("application_id","at");--> statement-breakpoint
CREATE INDEX "office_question_waiting" ON "office_question" USING btree ("cycle","at","id") WHERE "office_question"."answered_at" is null;