CREATE TABLE "exercises" (
	"id" text PRIMARY KEY NOT NULL,
	"version" integer DEFAULT 1 NOT NULL,
	"source" text NOT NULL,
	"exercise" jsonb NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "practice_runs" (
	"id" text PRIMARY KEY NOT NULL,
	"exercise_id" text NOT NULL,
	"by" text NOT NULL,
	"solved" boolean NOT NULL,
	"minutes" double precision NOT NULL,
	"par_minutes" double precision NOT NULL,
	"spent" integer NOT NULL,
	"acts" integer NOT NULL,
	"unsafe" integer NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE INDEX "practice_runs_by_at_index" ON "practice_runs" USING btree ("by","at");