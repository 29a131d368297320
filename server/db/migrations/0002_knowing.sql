CREATE TABLE "folder_rules" (
	"id" serial PRIMARY KEY NOT NULL,
	"source_id" integer NOT NULL,
	"folder" text NOT NULL,
	"kind" text,
	"tags" text[] DEFAULT '{}'::text[] NOT NULL
);
--> statement-breakpoint
CREATE TABLE "hand_edits" (
	"id" serial PRIMARY KEY NOT NULL,
	"title" text NOT NULL,
	"before" jsonb NOT NULL,
	"after" jsonb NOT NULL,
	"undone" boolean DEFAULT false NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "near_duplicates" (
	"first_id" integer NOT NULL,
	"second_id" integer NOT NULL,
	"correlation" real NOT NULL,
	"level_db" real NOT NULL,
	CONSTRAINT "near_duplicates_first_id_second_id_pk" PRIMARY KEY("first_id","second_id")
);
--> statement-breakpoint
ALTER TABLE "files" ADD COLUMN "tag_kind" text;--> statement-breakpoint
ALTER TABLE "files" ADD COLUMN "tag_confidence" real;--> statement-breakpoint
ALTER TABLE "files" ADD COLUMN "tag_evidence" text;--> statement-breakpoint
ALTER TABLE "files" ADD COLUMN "family" text;--> statement-breakpoint
ALTER TABLE "sounds" ADD COLUMN "features" "bytea";--> statement-breakpoint
ALTER TABLE "sounds" ADD COLUMN "audio_kind" text;--> statement-breakpoint
ALTER TABLE "sounds" ADD COLUMN "audio_confidence" real;--> statement-breakpoint
ALTER TABLE "sounds" ADD COLUMN "audio_evidence" text;--> statement-breakpoint
ALTER TABLE "sounds" ADD COLUMN "hand_kind" text;--> statement-breakpoint
ALTER TABLE "sounds" ADD COLUMN "hand_tags" text[] DEFAULT '{}'::text[] NOT NULL;--> statement-breakpoint
ALTER TABLE "sounds" ADD COLUMN "favourite" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "sounds" ADD COLUMN "hand_note" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "sounds" ADD COLUMN "tags" text[] DEFAULT '{}'::text[] NOT NULL;--> statement-breakpoint
ALTER TABLE "sources" ADD COLUMN "archive" text;--> statement-breakpoint
ALTER TABLE "sources" ADD COLUMN "paused" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "folder_rules" ADD CONSTRAINT "folder_rules_source_id_sources_id_fk" FOREIGN KEY ("source_id") REFERENCES "public"."sources"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "near_duplicates" ADD CONSTRAINT "near_duplicates_first_id_sounds_id_fk" FOREIGN KEY ("first_id") REFERENCES "public"."sounds"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "near_duplicates" ADD CONSTRAINT "near_duplicates_second_id_sounds_id_fk" FOREIGN KEY ("second_id") REFERENCES "public"."sounds"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "folder_rules_place" ON "folder_rules" USING btree ("source_id","folder");--> statement-breakpoint
CREATE INDEX "near_duplicates_second" ON "near_duplicates" USING btree ("second_id");--> statement-breakpoint
CREATE INDEX "files_family" ON "files" USING btree ("source_id","family") WHERE family is not null;