-- What changed, from what to what: one line for each field, and for each part of a field of several.
-- Arguments: subject, column with the name people know the row by, column with its job, fields.
CREATE FUNCTION note_change() RETURNS trigger LANGUAGE plpgsql AS $$
DECLARE
  old_row jsonb := CASE WHEN TG_OP = 'INSERT' THEN '{}'::jsonb ELSE to_jsonb(OLD) END;
  new_row jsonb := CASE WHEN TG_OP = 'DELETE' THEN '{}'::jsonb ELSE to_jsonb(NEW) END;
  any_row jsonb := CASE WHEN TG_OP = 'DELETE' THEN old_row ELSE new_row END;
  row_id text := coalesce(any_row ->> 'id', any_row ->> 'job_id');
  label text := coalesce(any_row ->> TG_ARGV[1], '');
  job text := any_row ->> TG_ARGV[2];
  field text;
  part text;
  was jsonb;
  is_now jsonb;
BEGIN
  IF current_setting('tembrix.quiet', true) = 'on' THEN
    RETURN NULL;
  END IF;
  FOREACH field IN ARRAY string_to_array(TG_ARGV[3], ',') LOOP
    was := nullif(old_row #> string_to_array(field, '.'), 'null'::jsonb);
    is_now := nullif(new_row #> string_to_array(field, '.'), 'null'::jsonb);
    IF was IS NOT DISTINCT FROM is_now THEN
      CONTINUE;
    END IF;
    IF field = 'password_hash' THEN
      INSERT INTO audit (job_id, subject, row_id, what, field)
      VALUES (job, TG_ARGV[0], row_id, label, 'password');
    ELSIF jsonb_typeof(coalesce(was, is_now)) = 'object' AND jsonb_typeof(coalesce(is_now, was)) = 'object' THEN
      FOR part IN
        SELECT jsonb_object_keys(coalesce(was, '{}'::jsonb) || coalesce(is_now, '{}'::jsonb))
      LOOP
        IF TG_OP = 'INSERT' AND is_now -> part = '"not asked"'::jsonb THEN
          CONTINUE;
        END IF;
        IF (was -> part) IS DISTINCT FROM (is_now -> part) THEN
          INSERT INTO audit (job_id, subject, row_id, what, field, before, after)
          VALUES (job, TG_ARGV[0], row_id, label, field || '.' || part, was -> part, is_now -> part);
        END IF;
      END LOOP;
    ELSE
      INSERT INTO audit (job_id, subject, row_id, what, field, before, after)
      VALUES (job, TG_ARGV[0], row_id, label, field, was, is_now);
    END IF;
  END LOOP;
  RETURN NULL;
END
$$;
--> statement-breakpoint
CREATE TRIGGER modules_noted AFTER INSERT OR UPDATE OR DELETE ON "modules"
FOR EACH ROW EXECUTE FUNCTION note_change('price', 'label', '', 'price,supplier,article,units');
--> statement-breakpoint
CREATE TRIGGER shop_terms_noted AFTER INSERT OR UPDATE OR DELETE ON "shop_terms"
FOR EACH ROW EXECUTE FUNCTION note_change('settings', '', '', 'terms');
--> statement-breakpoint
CREATE TRIGGER door_terms_noted AFTER INSERT OR UPDATE OR DELETE ON "door_terms"
FOR EACH ROW EXECUTE FUNCTION note_change('settings', '', '', 'is_open,address,port');
--> statement-breakpoint
CREATE TRIGGER jobs_noted AFTER UPDATE ON "jobs"
FOR EACH ROW EXECUTE FUNCTION note_change('job', '', 'id', 'consents,budget,deadline,need,margin,school,capacity_first,draw_cap,dead_slots,machine_id');
--> statement-breakpoint
CREATE TRIGGER jobs_consents_noted AFTER INSERT ON "jobs"
FOR EACH ROW EXECUTE FUNCTION note_change('job', '', 'id', 'consents');
--> statement-breakpoint
CREATE TRIGGER jobs_verdict_noted AFTER UPDATE ON "jobs"
FOR EACH ROW EXECUTE FUNCTION note_change('verdict', '', 'id', 'result.headline');
--> statement-breakpoint
CREATE TRIGGER plans_noted AFTER INSERT OR UPDATE ON "snapshots"
FOR EACH ROW WHEN (NEW.kind = 'planned')
EXECUTE FUNCTION note_change('plan', '', 'job_id', 'placement,setting');
--> statement-breakpoint
CREATE TRIGGER quotes_noted AFTER INSERT OR UPDATE ON "quotes"
FOR EACH ROW EXECUTE FUNCTION note_change('quote', 'number', 'job_id', 'total,answer');
--> statement-breakpoint
CREATE TRIGGER drawer_noted AFTER INSERT OR UPDATE OR DELETE ON "drawer"
FOR EACH ROW EXECUTE FUNCTION note_change('stock', 'label', 'reserved_for', 'state,price,reserved_for');
--> statement-breakpoint
CREATE TRIGGER accounts_noted AFTER INSERT OR UPDATE ON "accounts"
FOR EACH ROW EXECUTE FUNCTION note_change('account', 'name', '', 'name,role,is_active,password_hash');
--> statement-breakpoint
CREATE FUNCTION refuse_audit_change() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  RAISE EXCEPTION 'the audit is append-only';
END
$$;
--> statement-breakpoint
CREATE TRIGGER audit_append_only
BEFORE UPDATE OR DELETE OR TRUNCATE ON "audit"
FOR EACH STATEMENT EXECUTE FUNCTION refuse_audit_change();
--> statement-breakpoint
-- Tells every process that listens what was committed: which job, or which table where it is of none.
-- One transaction says the same thing once, however many rows it touched.
CREATE FUNCTION tell_change() RETURNS trigger LANGUAGE plpgsql AS $$
DECLARE
  job text;
BEGIN
  IF TG_ARGV[0] <> '' THEN
    -- The one column, not the row as a whole: evidence has megabytes.
    EXECUTE format('SELECT ($1).%I', TG_ARGV[0]) INTO job
    USING CASE WHEN TG_OP = 'DELETE' THEN OLD ELSE NEW END;
  END IF;
  PERFORM pg_notify('tembrix_changes', json_build_object(
    'job', job,
    'table', TG_TABLE_NAME,
    'tab', nullif(current_setting('tembrix.tab', true), '')
  )::text);
  RETURN NULL;
END
$$;
--> statement-breakpoint
DO $$
DECLARE
  one record;
BEGIN
  FOR one IN SELECT * FROM (VALUES
    ('jobs', 'id'), ('snapshots', 'job_id'), ('measurements', 'job_id'), ('bench_log', 'job_id'),
    ('evidence', 'job_id'), ('decisions', 'job_id'), ('quotes', 'job_id'), ('memory_tests', 'job_id'),
    ('returns', 'job_id'), ('tickets', 'job_id'), ('probe_results', 'job_id'),
    ('machines', ''), ('modules', ''), ('drawer', ''), ('shop_terms', ''), ('makers', ''),
    ('accounts', '')
  ) AS told (name, job) LOOP
    EXECUTE format(
      'CREATE TRIGGER %I AFTER INSERT OR UPDATE OR DELETE ON %I FOR EACH ROW EXECUTE FUNCTION tell_change(%L)',
      one.name || '_told', one.name, one.job
    );
  END LOOP;
END
$$;
