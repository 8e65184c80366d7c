CREATE TABLE "rule" (
	"name" text PRIMARY KEY NOT NULL,
	"hash" text NOT NULL
);
