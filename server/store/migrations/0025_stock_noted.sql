-- Suppliers are known by the offers that name them. Quiet where content is taken in from elsewhere,
-- which brings its own suppliers, or is asked for them once all of it is in.
CREATE FUNCTION know_suppliers() RETURNS void LANGUAGE sql AS $$
  INSERT INTO suppliers (id, name)
  SELECT substr(md5(supplier), 1, 12), supplier FROM modules WHERE supplier <> '' GROUP BY supplier
  ON CONFLICT DO NOTHING;
$$;
--> statement-breakpoint
CREATE FUNCTION know_supplier() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  IF NEW.supplier <> '' AND current_setting('tembrix.quiet', true) IS DISTINCT FROM 'on' THEN
    INSERT INTO suppliers (id, name) VALUES (substr(md5(NEW.supplier), 1, 12), NEW.supplier)
    ON CONFLICT DO NOTHING;
  END IF;
  RETURN NULL;
END
$$;
--> statement-breakpoint
SELECT know_suppliers();
--> statement-breakpoint
CREATE TRIGGER modules_supplier_known AFTER INSERT OR UPDATE OF supplier ON "modules"
FOR EACH ROW EXECUTE FUNCTION know_supplier();
--> statement-breakpoint
DROP TRIGGER modules_noted ON "modules";
--> statement-breakpoint
CREATE TRIGGER modules_noted AFTER INSERT OR UPDATE OR DELETE ON "modules"
FOR EACH ROW EXECUTE FUNCTION note_change('price', 'label', '', 'price,cost,supplier,article,units');
--> statement-breakpoint
DROP TRIGGER drawer_noted ON "drawer";
--> statement-breakpoint
CREATE TRIGGER drawer_noted AFTER INSERT OR UPDATE OR DELETE ON "drawer"
FOR EACH ROW EXECUTE FUNCTION note_change('stock', 'label', 'reserved_for', 'state,price,cost,place,reserved_for,gone,gone_note');
--> statement-breakpoint
CREATE TRIGGER order_lines_noted AFTER INSERT OR UPDATE ON "order_lines"
FOR EACH ROW EXECUTE FUNCTION note_change('stock', 'text', 'for_job', 'packs,received,cost,cancelled_at');
--> statement-breakpoint
CREATE TRIGGER suppliers_noted AFTER INSERT OR UPDATE ON "suppliers"
FOR EACH ROW EXECUTE FUNCTION note_change('supplier', 'name', '', 'name,contact,service_url');
--> statement-breakpoint
CREATE TRIGGER suppliers_told AFTER INSERT OR UPDATE OR DELETE ON "suppliers"
FOR EACH ROW EXECUTE FUNCTION tell_change('');
--> statement-breakpoint
CREATE TRIGGER order_lines_told AFTER INSERT OR UPDATE OR DELETE ON "order_lines"
FOR EACH ROW EXECUTE FUNCTION tell_change('');
