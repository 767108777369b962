ALTER TABLE "revisions" ALTER COLUMN "document" DROP NOT NULL;--> statement-breakpoint
ALTER TABLE "maps" ADD COLUMN "snapshot_version" integer;--> statement-breakpoint
UPDATE "maps" SET "snapshot_version" = "version";--> statement-breakpoint
ALTER TABLE "maps" ALTER COLUMN "snapshot_version" SET NOT NULL;--> statement-breakpoint
ALTER TABLE "maps" ADD COLUMN "drawing" text;--> statement-breakpoint
ALTER TABLE "revisions" ADD COLUMN "changes" text;