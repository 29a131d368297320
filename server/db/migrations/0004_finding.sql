CREATE TABLE "saved_searches" (
	"id" serial PRIMARY KEY NOT NULL,
	"name" text NOT NULL,
	"search" jsonb NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "tray_sounds" (
	"tray_id" integer NOT NULL,
	"sound_hash" text NOT NULL,
	"position" integer NOT NULL,
	"note" text DEFAULT '' NOT NULL,
	CONSTRAINT "tray_sounds_tray_id_sound_hash_pk" PRIMARY KEY("tray_id","sound_hash")
);
--> statement-breakpoint
CREATE TABLE "trays" (
	"id" serial PRIMARY KEY NOT NULL,
	"name" text NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
ALTER TABLE "hand_edits" ADD COLUMN "step" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "hand_edits" ADD COLUMN "count" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "sounds" ADD COLUMN "true_peak_db" real;--> statement-breakpoint
ALTER TABLE "sounds" ADD COLUMN "pitch_note" real;--> statement-breakpoint
ALTER TABLE "sounds" ADD COLUMN "set_aside" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "sounds" ADD COLUMN "added_at" timestamp with time zone DEFAULT now() NOT NULL;--> statement-breakpoint
ALTER TABLE "sounds" ADD COLUMN "words" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "sounds" ADD COLUMN "folders" text[] DEFAULT '{}'::text[] NOT NULL;--> statement-breakpoint
ALTER TABLE "sounds" ADD COLUMN "revision" bigint DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "tray_sounds" ADD CONSTRAINT "tray_sounds_tray_id_trays_id_fk" FOREIGN KEY ("tray_id") REFERENCES "public"."trays"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "hand_edits_step" ON "hand_edits" USING btree ("step");--> statement-breakpoint
CREATE INDEX "sounds_revision" ON "sounds" USING btree ("revision");--> statement-breakpoint
UPDATE "sounds" SET
	"true_peak_db" = ("figures"->'level'->>'truePeakDb')::real,
	"pitch_note" = 69 + 12 * log(2, greatest(("figures"->'pitch'->>'hz')::numeric, 1) / 440),
	"words" = array_to_string(tsvector_to_array("search"), ' '),
	"folders" = coalesce((SELECT array_agg(DISTINCT f."source_id" || CASE WHEN position('/' in f."path") = 0 THEN '' ELSE '/' || regexp_replace(f."path", '/[^/]*$', '') END)
		FROM "files" f WHERE f."sound_id" = "sounds"."id" AND NOT f."missing"), '{}');--> statement-breakpoint
UPDATE "hand_edits" SET "step" = "id", "count" = jsonb_array_length("after");--> statement-breakpoint
INSERT INTO "trays" ("name") SELECT 'Tray' WHERE EXISTS (SELECT FROM "tray");--> statement-breakpoint
INSERT INTO "tray_sounds" ("tray_id", "sound_hash", "position") SELECT t."id", s."sound_hash", s."position" FROM "trays" t, "tray" s;--> statement-breakpoint
CREATE SEQUENCE "sounds_revisions";--> statement-breakpoint
CREATE FUNCTION "sounds_revise"() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN NEW."revision" := nextval('sounds_revisions'); RETURN NEW; END $$;--> statement-breakpoint
CREATE TRIGGER "sounds_revised" BEFORE INSERT OR UPDATE ON "sounds" FOR EACH ROW EXECUTE FUNCTION "sounds_revise"();--> statement-breakpoint
UPDATE "sounds" SET "revision" = 0;
