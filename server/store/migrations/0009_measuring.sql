CREATE TABLE "door_terms" (
	"id" text PRIMARY KEY NOT NULL,
	"version" integer DEFAULT 1 NOT NULL,
	"is_open" boolean NOT NULL,
	"address" text NOT NULL,
	"port" integer NOT NULL
);
--> statement-breakpoint
CREATE TABLE "probe_results" (
	"job_id" text NOT NULL,
	"id" text NOT NULL,
	"kind" text NOT NULL,
	"way" text NOT NULL,
	"by" text NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	"fingerprint" text NOT NULL,
	"result" jsonb NOT NULL,
	CONSTRAINT "probe_results_job_id_id_pk" PRIMARY KEY("job_id","id")
);
--> statement-breakpoint
CREATE TABLE "tickets" (
	"id" text PRIMARY KEY NOT NULL,
	"job_id" text NOT NULL,
	"kind" text NOT NULL,
	"power" text NOT NULL,
	"by" text NOT NULL,
	"digest" text NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"expires_at" timestamp with time zone NOT NULL,
	"result_id" text,
	CONSTRAINT "tickets_digest_unique" UNIQUE("digest")
);
--> statement-breakpoint
ALTER TABLE "measurements" ADD COLUMN "sense" text;--> statement-breakpoint
ALTER TABLE "measurements" ADD COLUMN "is_lower_bound" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "probe_results" ADD CONSTRAINT "probe_results_job_id_jobs_id_fk" FOREIGN KEY ("job_id") REFERENCES "public"."jobs"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "tickets" ADD CONSTRAINT "tickets_job_id_jobs_id_fk" FOREIGN KEY ("job_id") REFERENCES "public"."jobs"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "tickets_job_id_index" ON "tickets" USING btree ("job_id");