-- Evidence is never overwritten: only the slots it was given to may change. Decisions are only added.
CREATE FUNCTION refuse_evidence_change() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  IF TG_OP = 'UPDATE' AND (OLD.content, OLD.kind, OLD.name, OLD.job_id, OLD.added_at)
    IS NOT DISTINCT FROM (NEW.content, NEW.kind, NEW.name, NEW.job_id, NEW.added_at) THEN
    RETURN NEW;
  END IF;
  RAISE EXCEPTION 'evidence is kept as it came';
END
$$;
--> statement-breakpoint
CREATE TRIGGER evidence_kept
BEFORE UPDATE OR DELETE ON "evidence"
FOR EACH ROW EXECUTE FUNCTION refuse_evidence_change();
--> statement-breakpoint
CREATE TRIGGER decisions_append_only
BEFORE UPDATE OR DELETE OR TRUNCATE ON "decisions"
FOR EACH STATEMENT EXECUTE FUNCTION refuse_event_change();
