DROP INDEX "sounds_sort";--> statement-breakpoint
CREATE INDEX "sounds_listed" ON "sounds" USING btree ("sort_key","id","kind","source_ids") WHERE file_count > 0;--> statement-breakpoint
CREATE INDEX "sounds_figures_version" ON "sounds" USING btree ("figures_version");