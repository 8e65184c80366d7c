CREATE TABLE "known_device" (
	"token_hash" text NOT NULL,
	"person_id" integer NOT NULL,
	"last_used_at" timestamp with time zone NOT NULL,
	CONSTRAINT "known_device_token_hash_person_id_pk" PRIMARY KEY("token_hash","person_id")
);
--> statement-breakpoint
DROP INDEX "person_email";--> statement-breakpoint
ALTER TABLE "company" ADD COLUMN "demo" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "session" ADD COLUMN "id" serial NOT NULL;--> statement-breakpoint
ALTER TABLE "session" ADD COLUMN "last_seen_at" timestamp with time zone DEFAULT now() NOT NULL;--> statement-breakpoint
ALTER TABLE "session" ADD COLUMN "device" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "known_device" ADD CONSTRAINT "known_device_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
UPDATE "person" SET "email" = lower("email");--> statement-breakpoint
CREATE UNIQUE INDEX "person_email" ON "person" USING btree ("email");--> statement-breakpoint
ALTER TABLE "session" ADD CONSTRAINT "session_id_unique" UNIQUE("id");--> statement-breakpoint
UPDATE "company" SET "demo" = true WHERE "name" = 'Larkmoor Bee Supply' AND EXISTS (SELECT FROM "person" WHERE "email" = 'ines@larkmoor.example');
