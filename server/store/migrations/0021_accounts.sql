CREATE TABLE "accounts" (
	"id" text PRIMARY KEY NOT NULL,
	"version" integer DEFAULT 1 NOT NULL,
	"name" text NOT NULL,
	"role" text NOT NULL,
	"password_hash" text NOT NULL,
	"is_active" boolean DEFAULT true NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "audit" (
	"id" bigserial PRIMARY KEY NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	"who" text DEFAULT nullif(current_setting('tembrix.who', true), ''),
	"job_id" text,
	"subject" text NOT NULL,
	"row_id" text NOT NULL,
	"what" text DEFAULT '' NOT NULL,
	"field" text NOT NULL,
	"before" jsonb,
	"after" jsonb
);
--> statement-breakpoint
CREATE TABLE "failed_sign_ins" (
	"name" text PRIMARY KEY NOT NULL,
	"count" integer NOT NULL,
	"last_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "sessions" (
	"id" text PRIMARY KEY NOT NULL,
	"token_digest" text NOT NULL,
	"account_id" text NOT NULL,
	"device_digest" text NOT NULL,
	"device" text NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"seen_at" timestamp with time zone DEFAULT now() NOT NULL,
	"held_at" timestamp with time zone,
	"pin_hash" text,
	"pin_failures" integer DEFAULT 0 NOT NULL,
	"job_id" text,
	CONSTRAINT "sessions_tokenDigest_unique" UNIQUE("token_digest")
);
--> statement-breakpoint
CREATE TABLE "tablet_links" (
	"token_digest" text PRIMARY KEY NOT NULL,
	"account_id" text NOT NULL,
	"job_id" text NOT NULL,
	"expires_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
ALTER TABLE "job_events" ADD COLUMN "who" text DEFAULT nullif(current_setting('tembrix.who', true), '');--> statement-breakpoint
ALTER TABLE "sessions" ADD CONSTRAINT "sessions_account_id_accounts_id_fk" FOREIGN KEY ("account_id") REFERENCES "public"."accounts"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "sessions" ADD CONSTRAINT "sessions_job_id_jobs_id_fk" FOREIGN KEY ("job_id") REFERENCES "public"."jobs"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "tablet_links" ADD CONSTRAINT "tablet_links_account_id_accounts_id_fk" FOREIGN KEY ("account_id") REFERENCES "public"."accounts"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "tablet_links" ADD CONSTRAINT "tablet_links_job_id_jobs_id_fk" FOREIGN KEY ("job_id") REFERENCES "public"."jobs"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "accounts_name" ON "accounts" USING btree (lower("name"));--> statement-breakpoint
CREATE INDEX "audit_job_id_index" ON "audit" USING btree ("job_id");--> statement-breakpoint
CREATE INDEX "audit_at_index" ON "audit" USING btree ("at" DESC NULLS LAST);--> statement-breakpoint
CREATE INDEX "sessions_account_id_index" ON "sessions" USING btree ("account_id");--> statement-breakpoint
CREATE INDEX "sessions_device_digest_index" ON "sessions" USING btree ("device_digest");