CREATE TABLE "kept_layout" (
	"person_id" integer NOT NULL,
	"list" text NOT NULL,
	"layout" jsonb NOT NULL,
	CONSTRAINT "kept_layout_person_id_list_pk" PRIMARY KEY("person_id","list")
);
--> statement-breakpoint
ALTER TABLE "kept_layout" ADD CONSTRAINT "kept_layout_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;