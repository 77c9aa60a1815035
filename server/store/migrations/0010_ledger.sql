CREATE TABLE "ledger" (
	"job_id" text PRIMARY KEY NOT NULL,
	"machine_id" text NOT NULL,
	"closed_at" timestamp with time zone NOT NULL,
	"proven" jsonb NOT NULL,
	"entry" jsonb NOT NULL
);
--> statement-breakpoint
ALTER TABLE "measurements" ADD COLUMN "activity" text;--> statement-breakpoint
ALTER TABLE "ledger" ADD CONSTRAINT "ledger_job_id_jobs_id_fk" FOREIGN KEY ("job_id") REFERENCES "public"."jobs"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "ledger" ADD CONSTRAINT "ledger_machine_id_machines_id_fk" FOREIGN KEY ("machine_id") REFERENCES "public"."machines"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "ledger_machine_id_index" ON "ledger" USING btree ("machine_id");--> statement-breakpoint
CREATE INDEX "ledger_closed_at_index" ON "ledger" USING btree ("closed_at" DESC NULLS LAST);