CREATE TABLE "pattern_revisions" (
	"pattern_id" text NOT NULL,
	"number" integer NOT NULL,
	"pattern" jsonb NOT NULL,
	"saved_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "pattern_revisions_pattern_id_number_pk" PRIMARY KEY("pattern_id","number")
);
--> statement-breakpoint
CREATE TABLE "patterns" (
	"id" text PRIMARY KEY NOT NULL,
	"pattern" jsonb NOT NULL,
	"summary" jsonb NOT NULL,
	"folder" text DEFAULT '' NOT NULL,
	"tags" text[] DEFAULT '{}'::text[] NOT NULL,
	"favourite" boolean DEFAULT false NOT NULL,
	"is_shipped" boolean DEFAULT false NOT NULL,
	"revision" integer NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"updated_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
ALTER TABLE "kits" ADD COLUMN "pattern_id" text;--> statement-breakpoint
ALTER TABLE "presets" ADD COLUMN "pattern_id" text;--> statement-breakpoint
ALTER TABLE "pattern_revisions" ADD CONSTRAINT "pattern_revisions_pattern_id_patterns_id_fk" FOREIGN KEY ("pattern_id") REFERENCES "public"."patterns"("id") ON DELETE cascade ON UPDATE no action;