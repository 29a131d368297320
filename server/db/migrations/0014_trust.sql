ALTER TABLE "preset_sounds" ADD COLUMN "size" bigint;--> statement-breakpoint
ALTER TABLE "preset_sounds" ADD COLUMN "modified_ms" double precision;--> statement-breakpoint
ALTER TABLE "sounds" ADD COLUMN "former_hash" text;--> statement-breakpoint
ALTER TABLE "sources" ADD COLUMN "left_out" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
CREATE INDEX "sounds_former_hash" ON "sounds" USING btree ("former_hash") WHERE former_hash IS NOT NULL;