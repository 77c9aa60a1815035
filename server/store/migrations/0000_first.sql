CREATE TABLE "customers" (
	"id" text PRIMARY KEY NOT NULL,
	"version" integer DEFAULT 1 NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"name" text NOT NULL,
	"contact" text DEFAULT '' NOT NULL
);
--> statement-breakpoint
CREATE TABLE "job_events" (
	"id" bigserial PRIMARY KEY NOT NULL,
	"job_id" text NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	"type" text NOT NULL,
	"text" text NOT NULL
);
--> statement-breakpoint
CREATE TABLE "jobs" (
	"id" text PRIMARY KEY NOT NULL,
	"version" integer DEFAULT 1 NOT NULL,
	"number" serial NOT NULL,
	"customer_id" text NOT NULL,
	"machine_id" text NOT NULL,
	"complaint" text NOT NULL,
	"need" double precision,
	"margin" double precision DEFAULT 0.25 NOT NULL,
	"school" text DEFAULT 'balanced' NOT NULL,
	"capacity_first" boolean DEFAULT false NOT NULL,
	"memory_test_passed" boolean DEFAULT false NOT NULL,
	"result" jsonb,
	"opened_at" timestamp with time zone DEFAULT now() NOT NULL,
	"changed_at" timestamp with time zone DEFAULT now() NOT NULL,
	"closed_at" timestamp with time zone,
	CONSTRAINT "jobs_number_unique" UNIQUE("number")
);
--> statement-breakpoint
CREATE TABLE "machines" (
	"id" text PRIMARY KEY NOT NULL,
	"version" integer DEFAULT 1 NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"name" text NOT NULL,
	"machine" jsonb NOT NULL
);
--> statement-breakpoint
CREATE TABLE "measurements" (
	"id" text PRIMARY KEY NOT NULL,
	"version" integer DEFAULT 1 NOT NULL,
	"job_id" text NOT NULL,
	"kind" text NOT NULL,
	"metric" text NOT NULL,
	"test" text NOT NULL,
	"runs" double precision[] NOT NULL,
	"warm_up" integer DEFAULT 0 NOT NULL,
	"conditions" text DEFAULT '' NOT NULL,
	"fingerprint" text NOT NULL,
	"taken_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "modules" (
	"id" text PRIMARY KEY NOT NULL,
	"version" integer DEFAULT 1 NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"label" text NOT NULL,
	"module" jsonb NOT NULL
);
--> statement-breakpoint
CREATE TABLE "snapshots" (
	"job_id" text NOT NULL,
	"kind" text NOT NULL,
	"version" integer DEFAULT 1 NOT NULL,
	"placement" jsonb NOT NULL,
	"setting" text NOT NULL,
	"saved_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "snapshots_job_id_kind_pk" PRIMARY KEY("job_id","kind")
);
--> statement-breakpoint
ALTER TABLE "job_events" ADD CONSTRAINT "job_events_job_id_jobs_id_fk" FOREIGN KEY ("job_id") REFERENCES "public"."jobs"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "jobs" ADD CONSTRAINT "jobs_customer_id_customers_id_fk" FOREIGN KEY ("customer_id") REFERENCES "public"."customers"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "jobs" ADD CONSTRAINT "jobs_machine_id_machines_id_fk" FOREIGN KEY ("machine_id") REFERENCES "public"."machines"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "measurements" ADD CONSTRAINT "measurements_job_id_jobs_id_fk" FOREIGN KEY ("job_id") REFERENCES "public"."jobs"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "snapshots" ADD CONSTRAINT "snapshots_job_id_jobs_id_fk" FOREIGN KEY ("job_id") REFERENCES "public"."jobs"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "job_events_job_id_index" ON "job_events" USING btree ("job_id");--> statement-breakpoint
CREATE INDEX "jobs_opened_at_number_index" ON "jobs" USING btree ("opened_at","number") WHERE closed_at is null;--> statement-breakpoint
CREATE INDEX "jobs_closed_at_number_index" ON "jobs" USING btree ("closed_at" DESC NULLS LAST,"number") WHERE closed_at is not null;--> statement-breakpoint
CREATE INDEX "jobs_customer_id_index" ON "jobs" USING btree ("customer_id");--> statement-breakpoint
CREATE INDEX "jobs_machine_id_index" ON "jobs" USING btree ("machine_id");--> statement-breakpoint
CREATE UNIQUE INDEX "measurements_job_id_kind_metric_test_index" ON "measurements" USING btree ("job_id","kind","metric","test");