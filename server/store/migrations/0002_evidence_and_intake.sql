CREATE TABLE "decisions" (
	"id" bigserial PRIMARY KEY NOT NULL,
	"job_id" text NOT NULL,
	"slot_id" text NOT NULL,
	"field" text NOT NULL,
	"evidence_id" text NOT NULL,
	"by" text NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "evidence" (
	"id" text PRIMARY KEY NOT NULL,
	"job_id" text NOT NULL,
	"kind" text NOT NULL,
	"name" text NOT NULL,
	"content" "bytea" NOT NULL,
	"slot_ids" jsonb NOT NULL,
	"by" text NOT NULL,
	"added_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "makers" (
	"key" text PRIMARY KEY NOT NULL,
	"name" text NOT NULL
);
--> statement-breakpoint
ALTER TABLE "jobs" ADD COLUMN "need_input" jsonb;--> statement-breakpoint
ALTER TABLE "jobs" ADD COLUMN "work" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "jobs" ADD COLUMN "budget" integer;--> statement-breakpoint
ALTER TABLE "jobs" ADD COLUMN "deadline" date;--> statement-breakpoint
ALTER TABLE "jobs" ADD COLUMN "consents" jsonb DEFAULT '{"dataBackedUp":"not asked","openCase":"not asked","warrantySeal":"not asked"}'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "jobs" ADD COLUMN "condition" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "jobs" ADD COLUMN "swollen_battery" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "jobs" ADD COLUMN "batch_id" text;--> statement-breakpoint
ALTER TABLE "jobs" ADD COLUMN "batch_position" integer;--> statement-breakpoint
ALTER TABLE "jobs" ADD COLUMN "batch_size" integer;--> statement-breakpoint
ALTER TABLE "machines" ADD COLUMN "locators" jsonb DEFAULT '{}'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "measurements" ADD COLUMN "power" text DEFAULT 'unknown' NOT NULL;--> statement-breakpoint
ALTER TABLE "measurements" ADD COLUMN "resolution" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "measurements" ADD COLUMN "tool" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "decisions" ADD CONSTRAINT "decisions_job_id_jobs_id_fk" FOREIGN KEY ("job_id") REFERENCES "public"."jobs"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "decisions" ADD CONSTRAINT "decisions_evidence_id_evidence_id_fk" FOREIGN KEY ("evidence_id") REFERENCES "public"."evidence"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "evidence" ADD CONSTRAINT "evidence_job_id_jobs_id_fk" FOREIGN KEY ("job_id") REFERENCES "public"."jobs"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "decisions_job_id_index" ON "decisions" USING btree ("job_id");--> statement-breakpoint
CREATE INDEX "evidence_job_id_added_at_index" ON "evidence" USING btree ("job_id","added_at");