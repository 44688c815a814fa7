CREATE TABLE "pace" (
	"key" text PRIMARY KEY NOT NULL,
	"tries" double precision NOT NULL,
	"at" timestamp with time zone NOT NULL
);
