CREATE FUNCTION refuse_change() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  RAISE EXCEPTION 'rows of % are never changed or removed', TG_TABLE_NAME USING ERRCODE = 'restrict_violation';
END $$;
--> statement-breakpoint
CREATE TRIGGER revisions_stay BEFORE UPDATE OR DELETE ON revisions FOR EACH ROW EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER publications_stay BEFORE UPDATE OR DELETE ON publications FOR EACH ROW EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER releases_stay BEFORE UPDATE OR DELETE ON releases FOR EACH ROW EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER activity_stays BEFORE UPDATE OR DELETE ON activity FOR EACH ROW EXECUTE FUNCTION refuse_change();
