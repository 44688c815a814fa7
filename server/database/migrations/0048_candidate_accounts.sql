ALTER TYPE "public"."log_act" ADD VALUE 'give-access' BEFORE 'sign-in';--> statement-breakpoint
ALTER TYPE "public"."log_act" ADD VALUE 'add-address';--> statement-breakpoint
ALTER TYPE "public"."log_act" ADD VALUE 'remove-address';--> statement-breakpoint
ALTER TYPE "public"."log_act" ADD VALUE 'remove-password';--> statement-breakpoint
CREATE TABLE "candidate_password" (
	"principal_id" uuid PRIMARY KEY NOT NULL,
	"password_hash" text NOT NULL,
	"at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
ALTER TABLE "candidate_password" ADD CONSTRAINT "candidate_password_principal_id_principal_id_fk" FOREIGN KEY ("principal_id") REFERENCES "public"."principal"("id") ON DELETE no action ON UPDATE no action;