ALTER TABLE "tray" DISABLE ROW LEVEL SECURITY;--> statement-breakpoint
DROP TABLE "tray" CASCADE;--> statement-breakpoint
DROP INDEX "sounds_search";--> statement-breakpoint
DROP INDEX "sounds_listed";--> statement-breakpoint
DROP INDEX "sounds_kind";--> statement-breakpoint
ALTER TABLE "sounds" DROP COLUMN "search";