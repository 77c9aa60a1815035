-- Runs of the measuring page by the names its tests have now, so that they go on comparing with one another.
UPDATE "measurements" SET "test" = 'measuring page: multiply-add' WHERE "test" = 'measuring page: triad';
--> statement-breakpoint
UPDATE "measurements" SET "test" = 'measuring page: latency' WHERE "test" = 'measuring page: reply';
--> statement-breakpoint
UPDATE "ledger" SET "entry" = replace(replace("entry"::text, '"measuring page: triad"', '"measuring page: multiply-add"'), '"measuring page: reply"', '"measuring page: latency"')::jsonb
WHERE "entry"::text LIKE '%"measuring page: %';
