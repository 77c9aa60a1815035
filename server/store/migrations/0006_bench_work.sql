CREATE TABLE "bench_log" (
	"seq" bigserial PRIMARY KEY NOT NULL,
	"id" text NOT NULL,
	"job_id" text NOT NULL,
	"by" text NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	"note" jsonb NOT NULL,
	CONSTRAINT "bench_log_id_unique" UNIQUE("id")
);
--> statement-breakpoint
CREATE TABLE "cover_photos" (
	"machine_id" text PRIMARY KEY NOT NULL,
	"type" text NOT NULL,
	"content" "bytea" NOT NULL
);
--> statement-breakpoint
CREATE TABLE "memory_tests" (
	"id" text PRIMARY KEY NOT NULL,
	"job_id" text NOT NULL,
	"kind" text NOT NULL,
	"minutes" double precision NOT NULL,
	"passes" integer NOT NULL,
	"errors" integer NOT NULL,
	"tool" text DEFAULT '' NOT NULL,
	"conditions" text DEFAULT '' NOT NULL,
	"fingerprint" text NOT NULL,
	"setting" text NOT NULL,
	"by" text NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "returns" (
	"id" text PRIMARY KEY NOT NULL,
	"version" integer DEFAULT 1 NOT NULL,
	"job_id" text NOT NULL,
	"slot_id" text NOT NULL,
	"module" jsonb NOT NULL,
	"supplier" text DEFAULT '' NOT NULL,
	"reason" text NOT NULL,
	"state" text DEFAULT 'to send' NOT NULL,
	"by" text NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
ALTER TABLE "jobs" ADD COLUMN "dead_slots" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "machines" ADD COLUMN "cover_map" jsonb;--> statement-breakpoint
ALTER TABLE "machines" ADD COLUMN "interleave" jsonb;--> statement-breakpoint
ALTER TABLE "bench_log" ADD CONSTRAINT "bench_log_job_id_jobs_id_fk" FOREIGN KEY ("job_id") REFERENCES "public"."jobs"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "cover_photos" ADD CONSTRAINT "cover_photos_machine_id_machines_id_fk" FOREIGN KEY ("machine_id") REFERENCES "public"."machines"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "memory_tests" ADD CONSTRAINT "memory_tests_job_id_jobs_id_fk" FOREIGN KEY ("job_id") REFERENCES "public"."jobs"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "returns" ADD CONSTRAINT "returns_job_id_jobs_id_fk" FOREIGN KEY ("job_id") REFERENCES "public"."jobs"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "bench_log_job_id_seq_index" ON "bench_log" USING btree ("job_id","seq");--> statement-breakpoint
CREATE INDEX "memory_tests_job_id_at_index" ON "memory_tests" USING btree ("job_id","at");--> statement-breakpoint
CREATE INDEX "returns_job_id_index" ON "returns" USING btree ("job_id");