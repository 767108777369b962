CREATE TABLE "materials" (
	"name" text PRIMARY KEY NOT NULL,
	"pack_id" text NOT NULL,
	"label" text NOT NULL,
	"tags" jsonb NOT NULL,
	"substance" text NOT NULL,
	"solidity" text NOT NULL,
	"width" integer NOT NULL,
	"height" integer NOT NULL,
	"texels_per_cm" double precision NOT NULL,
	"average" text NOT NULL,
	"roughness" double precision NOT NULL,
	"regions" jsonb DEFAULT '[]'::jsonb NOT NULL,
	"content" text NOT NULL,
	"albedo" text NOT NULL,
	"normal" text,
	"roughness_map" text,
	"thumb" text NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "packs" (
	"id" text PRIMARY KEY NOT NULL,
	"name" text NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
ALTER TABLE "materials" ADD CONSTRAINT "materials_pack_id_packs_id_fk" FOREIGN KEY ("pack_id") REFERENCES "public"."packs"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "materials_by_pack" ON "materials" USING btree ("pack_id");--> statement-breakpoint
CREATE INDEX "materials_by_content" ON "materials" USING btree ("content");