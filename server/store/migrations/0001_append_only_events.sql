-- The history of a job is only ever added to.
CREATE FUNCTION refuse_event_change() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  RAISE EXCEPTION 'job events are append-only';
END
$$;
--> statement-breakpoint
CREATE TRIGGER job_events_append_only
BEFORE UPDATE OR DELETE OR TRUNCATE ON "job_events"
FOR EACH STATEMENT EXECUTE FUNCTION refuse_event_change();
