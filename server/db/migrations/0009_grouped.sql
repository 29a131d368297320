ALTER TABLE "near_duplicates" ADD COLUMN "group_id" integer;--> statement-breakpoint
ALTER TABLE "near_duplicates" ADD COLUMN "strokes" boolean DEFAULT false NOT NULL;--> statement-breakpoint
UPDATE "near_duplicates" AS n SET
  "group_id" = (SELECT min(m."first_id") FROM "near_duplicates" m WHERE m."first_id" = n."first_id" OR m."second_id" = n."first_id"),
  "strokes" = EXISTS (SELECT FROM "files" a JOIN "files" b ON b."source_id" = a."source_id" AND b."family" = a."family" WHERE a."sound_id" = n."first_id" AND b."sound_id" = n."second_id");--> statement-breakpoint
ALTER TABLE "near_duplicates" ALTER COLUMN "group_id" SET NOT NULL;--> statement-breakpoint
CREATE INDEX "near_duplicates_group" ON "near_duplicates" USING btree ("group_id");
