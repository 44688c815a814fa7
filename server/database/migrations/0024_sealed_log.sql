CREATE TABLE "audit_head" (
	"size" bigint PRIMARY KEY NOT NULL,
	"root" "bytea" NOT NULL,
	"peaks" jsonb NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"key" text NOT NULL,
	"signature" "bytea" NOT NULL,
	"floor" bigint NOT NULL,
	"last_event" bigint NOT NULL,
	"horizon" bigint NOT NULL
);
--> statement-breakpoint
CREATE TABLE "audit_leaf" (
	"place" bigint PRIMARY KEY NOT NULL,
	"event_id" bigint NOT NULL,
	"commitment" "bytea" NOT NULL,
	"leaf" "bytea" NOT NULL,
	CONSTRAINT "audit_leaf_event_id_unique" UNIQUE("event_id")
);
--> statement-breakpoint
ALTER TABLE "audit_event" ADD COLUMN "salt" uuid DEFAULT gen_random_uuid() NOT NULL;