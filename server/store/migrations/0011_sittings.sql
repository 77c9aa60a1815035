ALTER TABLE "measurements" ADD COLUMN "sittings" integer[] DEFAULT '{}' NOT NULL;--> statement-breakpoint
ALTER TABLE "measurements" ADD COLUMN "step" double precision;--> statement-breakpoint
ALTER TABLE "measurements" ADD COLUMN "doubts" text[] DEFAULT '{}' NOT NULL;--> statement-breakpoint
CREATE INDEX "measurements_taken_at_index" ON "measurements" USING btree ("taken_at") WHERE cardinality(sittings) > 1;