ALTER TABLE "sounds" ALTER COLUMN "revision" SET DEFAULT nextval('sounds_revisions');--> statement-breakpoint
DROP TRIGGER "sounds_revised" ON "sounds";--> statement-breakpoint
CREATE TRIGGER "sounds_revised" BEFORE UPDATE ON "sounds" FOR EACH ROW EXECUTE FUNCTION "sounds_revise"();
