CREATE EXTENSION IF NOT EXISTS pg_trgm;--> statement-breakpoint
CREATE INDEX "customers_name_words" ON "customers" USING gin ("name" gin_trgm_ops);--> statement-breakpoint
CREATE INDEX "jobs_complaint_words" ON "jobs" USING gin ("complaint" gin_trgm_ops);--> statement-breakpoint
CREATE INDEX "jobs_number_words" ON "jobs" USING gin (("number"::text) gin_trgm_ops);--> statement-breakpoint
CREATE INDEX "machines_name_words" ON "machines" USING gin ("name" gin_trgm_ops);