ALTER TABLE "props" ADD COLUMN "pack_id" text;--> statement-breakpoint
INSERT INTO "packs" ("id", "name") SELECT 'imported-models', 'Models' WHERE EXISTS (SELECT 1 FROM "props");--> statement-breakpoint
UPDATE "props" SET "pack_id" = 'imported-models', "tags" = "tags" - 'imported';--> statement-breakpoint
ALTER TABLE "props" ALTER COLUMN "pack_id" SET NOT NULL;--> statement-breakpoint
ALTER TABLE "props" ADD CONSTRAINT "props_pack_id_packs_id_fk" FOREIGN KEY ("pack_id") REFERENCES "public"."packs"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "props_by_pack" ON "props" USING btree ("pack_id");
