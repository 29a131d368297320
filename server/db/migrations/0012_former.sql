ALTER TABLE "files" ADD COLUMN "former_sound_id" integer;--> statement-breakpoint
ALTER TABLE "files" ADD CONSTRAINT "files_former_sound_id_sounds_id_fk" FOREIGN KEY ("former_sound_id") REFERENCES "public"."sounds"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "files_former" ON "files" USING btree ("source_id") WHERE former_sound_id is not null;