CREATE TABLE "files" (
	"id" serial PRIMARY KEY NOT NULL,
	"source_id" integer NOT NULL,
	"path" text NOT NULL,
	"size" bigint NOT NULL,
	"modified_ms" double precision NOT NULL,
	"sound_id" integer,
	"error" text,
	"missing" boolean DEFAULT false NOT NULL,
	"kind" text,
	"kind_confidence" real,
	"kind_evidence" text
);
--> statement-breakpoint
CREATE TABLE "jobs" (
	"id" uuid PRIMARY KEY NOT NULL,
	"request" jsonb NOT NULL,
	"state" text NOT NULL,
	"progress" jsonb,
	"result" jsonb,
	"error" text,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"finished_at" timestamp with time zone
);
--> statement-breakpoint
CREATE TABLE "kits" (
	"id" uuid PRIMARY KEY NOT NULL,
	"kit" jsonb NOT NULL,
	"revision" integer NOT NULL,
	"preset_id" text,
	"preset_revision" integer,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"updated_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "preset_revisions" (
	"preset_id" text NOT NULL,
	"number" integer NOT NULL,
	"stored_at" timestamp with time zone NOT NULL,
	"pads" integer NOT NULL,
	"samples" integer NOT NULL,
	"bytes" bigint NOT NULL,
	"problem" text,
	CONSTRAINT "preset_revisions_preset_id_number_pk" PRIMARY KEY("preset_id","number")
);
--> statement-breakpoint
CREATE TABLE "preset_sounds" (
	"preset_id" text NOT NULL,
	"number" integer NOT NULL,
	"sound_hash" text NOT NULL,
	"path" text NOT NULL,
	CONSTRAINT "preset_sounds_preset_id_number_sound_hash_pk" PRIMARY KEY("preset_id","number","sound_hash")
);
--> statement-breakpoint
CREATE TABLE "presets" (
	"id" text PRIMARY KEY NOT NULL,
	"name" text NOT NULL,
	"folder" text NOT NULL,
	"latest" integer NOT NULL
);
--> statement-breakpoint
CREATE TABLE "sounds" (
	"id" serial PRIMARY KEY NOT NULL,
	"hash" text NOT NULL,
	"container" text NOT NULL,
	"codec" text NOT NULL,
	"sample_rate" integer NOT NULL,
	"bit_depth" integer NOT NULL,
	"channels" integer NOT NULL,
	"frames" bigint NOT NULL,
	"length_seconds" double precision NOT NULL,
	"peak" real NOT NULL,
	"overview" "bytea" NOT NULL,
	"embedded" jsonb NOT NULL,
	"warnings" jsonb NOT NULL,
	"kind" text,
	"kind_confidence" real,
	"kind_evidence" text,
	"name" text DEFAULT '' NOT NULL,
	"folder" text DEFAULT '' NOT NULL,
	"sort_key" text COLLATE "C" DEFAULT '' NOT NULL,
	"search" "tsvector" DEFAULT ''::tsvector NOT NULL,
	"source_ids" integer[] DEFAULT '{}'::integer[] NOT NULL,
	"file_count" integer DEFAULT 0 NOT NULL
);
--> statement-breakpoint
CREATE TABLE "sources" (
	"id" serial PRIMARY KEY NOT NULL,
	"name" text NOT NULL,
	"path" text NOT NULL,
	"uploaded" boolean DEFAULT false NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"last_scan_at" timestamp with time zone,
	"other_files" integer DEFAULT 0 NOT NULL
);
--> statement-breakpoint
CREATE TABLE "tray" (
	"sound_hash" text PRIMARY KEY NOT NULL,
	"position" integer NOT NULL
);
--> statement-breakpoint
ALTER TABLE "files" ADD CONSTRAINT "files_source_id_sources_id_fk" FOREIGN KEY ("source_id") REFERENCES "public"."sources"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "files" ADD CONSTRAINT "files_sound_id_sounds_id_fk" FOREIGN KEY ("sound_id") REFERENCES "public"."sounds"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "preset_revisions" ADD CONSTRAINT "preset_revisions_preset_id_presets_id_fk" FOREIGN KEY ("preset_id") REFERENCES "public"."presets"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "files_source_path" ON "files" USING btree ("source_id","path");--> statement-breakpoint
CREATE INDEX "files_sound" ON "files" USING btree ("sound_id");--> statement-breakpoint
CREATE INDEX "files_unreadable" ON "files" USING btree ("source_id") WHERE error is not null;--> statement-breakpoint
CREATE INDEX "jobs_state" ON "jobs" USING btree ("state");--> statement-breakpoint
CREATE INDEX "preset_sounds_hash" ON "preset_sounds" USING btree ("sound_hash");--> statement-breakpoint
CREATE UNIQUE INDEX "sounds_hash" ON "sounds" USING btree ("hash");--> statement-breakpoint
CREATE INDEX "sounds_search" ON "sounds" USING gin ("search");--> statement-breakpoint
CREATE INDEX "sounds_sort" ON "sounds" USING btree ("sort_key","id");--> statement-breakpoint
CREATE INDEX "sounds_kind" ON "sounds" USING btree ("kind");--> statement-breakpoint
CREATE UNIQUE INDEX "sources_path" ON "sources" USING btree ("path");