ALTER TABLE "drawer" ADD COLUMN "serial" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "returns" ADD COLUMN "serial" text DEFAULT '' NOT NULL;