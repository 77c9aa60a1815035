CREATE TABLE "deeds" (
	"key" text PRIMARY KEY NOT NULL,
	"request" text NOT NULL,
	"status" integer,
	"answer" jsonb,
	"at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE INDEX "deeds_at_index" ON "deeds" USING btree ("at");