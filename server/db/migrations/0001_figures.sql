ALTER TABLE "sounds" ADD COLUMN "figures" jsonb;--> statement-breakpoint
ALTER TABLE "sounds" ADD COLUMN "figures_version" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "sounds" ADD COLUMN "hit_lufs" real;--> statement-breakpoint
ALTER TABLE "sounds" ADD COLUMN "effective_seconds" real;--> statement-breakpoint
ALTER TABLE "sounds" ADD COLUMN "brightness" integer;--> statement-breakpoint
ALTER TABLE "sounds" ADD COLUMN "flags" text[] DEFAULT '{}'::text[] NOT NULL;