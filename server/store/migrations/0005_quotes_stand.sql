-- A quote is what the customer was told: only its answer may be added, never its content changed.
CREATE FUNCTION quotes_stand() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  IF TG_OP = 'UPDATE'
    AND (to_jsonb(NEW) - 'answer' - 'answered_by' - 'answered_at' - 'answer_note')
      = (to_jsonb(OLD) - 'answer' - 'answered_by' - 'answered_at' - 'answer_note')
  THEN
    RETURN NEW;
  END IF;
  RAISE EXCEPTION 'quotes are issued once and never changed';
END;
$$;
--> statement-breakpoint
CREATE TRIGGER quotes_stand BEFORE UPDATE OR DELETE ON quotes
  FOR EACH ROW EXECUTE FUNCTION quotes_stand();
