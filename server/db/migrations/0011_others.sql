ALTER TABLE "files" ADD COLUMN "readers_version" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "sources" ADD COLUMN "other_endings" jsonb DEFAULT '{}'::jsonb NOT NULL;