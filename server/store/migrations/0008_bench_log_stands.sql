-- What was done at the bench is only ever added to; a mistake is taken back by another note.
CREATE FUNCTION refuse_bench_change() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  RAISE EXCEPTION 'the bench log is append-only';
END
$$;
--> statement-breakpoint
CREATE TRIGGER bench_log_append_only
BEFORE UPDATE OR DELETE OR TRUNCATE ON "bench_log"
FOR EACH STATEMENT EXECUTE FUNCTION refuse_bench_change();
