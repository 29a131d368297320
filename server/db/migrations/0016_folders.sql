CREATE TABLE "favourite_folders" (
	"source_id" integer NOT NULL,
	"path" text NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "favourite_folders_source_id_path_pk" PRIMARY KEY("source_id","path")
);
--> statement-breakpoint
ALTER TABLE "favourite_folders" ADD CONSTRAINT "favourite_folders_source_id_sources_id_fk" FOREIGN KEY ("source_id") REFERENCES "public"."sources"("id") ON DELETE cascade ON UPDATE no action;