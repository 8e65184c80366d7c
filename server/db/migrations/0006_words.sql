CREATE TABLE "word" (
	"word" text PRIMARY KEY NOT NULL
);
--> statement-breakpoint
CREATE INDEX "word_like" ON "word" USING gin ("word" gin_trgm_ops);--> statement-breakpoint
CREATE INDEX "movement_line_sent" ON "movement_line" USING btree ("effective_on","item_id","quantity","to_place_id","from_place_id") WHERE "movement_line"."sales_line_id" IS NOT NULL;--> statement-breakpoint
INSERT INTO word SELECT DISTINCT w FROM item, regexp_split_to_table(findable, '[\s,;()/]+') w WHERE length(w) BETWEEN 3 AND 40 AND w !~ '^[[:digit:][:punct:]]+$';
