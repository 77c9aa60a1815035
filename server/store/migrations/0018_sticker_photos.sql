ALTER TABLE "evidence" ADD COLUMN "photo" "bytea";--> statement-breakpoint
-- The photo a label was read off is evidence like the label.
CREATE OR REPLACE FUNCTION refuse_evidence_change() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  IF TG_OP = 'UPDATE' AND (OLD.content, OLD.photo, OLD.kind, OLD.name, OLD.job_id, OLD.added_at)
    IS NOT DISTINCT FROM (NEW.content, NEW.photo, NEW.kind, NEW.name, NEW.job_id, NEW.added_at) THEN
    RETURN NEW;
  END IF;
  RAISE EXCEPTION 'evidence is kept as it came';
END
$$;
