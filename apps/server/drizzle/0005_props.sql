CREATE TABLE "props" (
	"name" text PRIMARY KEY NOT NULL,
	"tags" jsonb NOT NULL,
	"facts" jsonb NOT NULL,
	"content" text NOT NULL,
	"model" text NOT NULL,
	"thumb" text NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE INDEX "props_by_content" ON "props" USING btree ("content");