CREATE TABLE "assemblies" (
	"id" text PRIMARY KEY NOT NULL,
	"label" text NOT NULL,
	"tags" jsonb DEFAULT '[]'::jsonb NOT NULL,
	"document" text NOT NULL,
	"drawing" text,
	"summary" jsonb NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL
);
