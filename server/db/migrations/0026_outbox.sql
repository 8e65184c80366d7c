CREATE TABLE "outbox" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "outbox_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"task" text NOT NULL,
	"payload" jsonb NOT NULL,
	"about" text NOT NULL
);
--> statement-breakpoint
DROP INDEX "letter_waiting";--> statement-breakpoint
INSERT INTO "outbox" ("task", "payload", "about") SELECT 'sendLetter', jsonb_build_object('letterId', "id"), 'sendLetter ' || "id" FROM "letter" WHERE "sent_at" IS NULL AND "next_try_at" IS NOT NULL ORDER BY "id";
