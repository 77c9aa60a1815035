CREATE TABLE "drawer" (
	"id" text PRIMARY KEY NOT NULL,
	"version" integer DEFAULT 1 NOT NULL,
	"label" text NOT NULL,
	"module" jsonb NOT NULL,
	"state" text NOT NULL,
	"price" integer DEFAULT 0 NOT NULL,
	"origin" text DEFAULT '' NOT NULL,
	"reserved_for" text,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "quotes" (
	"id" text PRIMARY KEY NOT NULL,
	"job_id" text NOT NULL,
	"number" integer NOT NULL,
	"issued_at" timestamp with time zone DEFAULT now() NOT NULL,
	"valid_until" date NOT NULL,
	"choice" jsonb NOT NULL,
	"lines" jsonb NOT NULL,
	"total" integer NOT NULL,
	"tax" integer NOT NULL,
	"tax_percent" double precision NOT NULL,
	"currency" text NOT NULL,
	"lead_days" integer,
	"promise" jsonb NOT NULL,
	"note" text DEFAULT '' NOT NULL,
	"orders" jsonb DEFAULT '[]'::jsonb NOT NULL,
	"answer" text,
	"answered_by" text,
	"answered_at" timestamp with time zone,
	"answer_note" text
);
--> statement-breakpoint
CREATE TABLE "shop_terms" (
	"id" text PRIMARY KEY NOT NULL,
	"version" integer DEFAULT 1 NOT NULL,
	"terms" jsonb NOT NULL
);
--> statement-breakpoint
ALTER TABLE "jobs" ADD COLUMN "kept_plans" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "modules" ADD COLUMN "supplier" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "modules" ADD COLUMN "article" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "modules" ADD COLUMN "units" integer DEFAULT 1 NOT NULL;--> statement-breakpoint
ALTER TABLE "modules" ADD COLUMN "price" integer;--> statement-breakpoint
ALTER TABLE "modules" ADD COLUMN "stock" integer;--> statement-breakpoint
ALTER TABLE "modules" ADD COLUMN "lead_days" integer;--> statement-breakpoint
ALTER TABLE "modules" ADD COLUMN "verified_on" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "drawer" ADD CONSTRAINT "drawer_reserved_for_jobs_id_fk" FOREIGN KEY ("reserved_for") REFERENCES "public"."jobs"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "quotes" ADD CONSTRAINT "quotes_job_id_jobs_id_fk" FOREIGN KEY ("job_id") REFERENCES "public"."jobs"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "drawer_reserved_for_index" ON "drawer" USING btree ("reserved_for");--> statement-breakpoint
CREATE UNIQUE INDEX "quotes_job_id_number_index" ON "quotes" USING btree ("job_id","number");