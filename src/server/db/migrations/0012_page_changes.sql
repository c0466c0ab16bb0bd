CREATE TABLE "page_changes" (
	"id" bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "page_changes_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 9223372036854775807 START WITH 1 CACHE 1),
	"site_id" integer NOT NULL,
	"page_id" integer NOT NULL,
	"xid" "xid8" DEFAULT pg_current_xact_id() NOT NULL,
	"made_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE INDEX "page_changes_site_id_id_index" ON "page_changes" USING btree ("site_id","id");--> statement-breakpoint
CREATE FUNCTION page_changed() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  IF TG_OP <> 'INSERT' THEN INSERT INTO page_changes (site_id, page_id) VALUES (OLD.site_id, OLD.id); END IF;
  IF TG_OP = 'INSERT' THEN INSERT INTO page_changes (site_id, page_id) VALUES (NEW.site_id, NEW.id); END IF;
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE FUNCTION thing_of_page_changed() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  IF TG_OP <> 'INSERT' THEN INSERT INTO page_changes (site_id, page_id) VALUES (OLD.site_id, OLD.page_id); END IF;
  IF TG_OP = 'INSERT' THEN INSERT INTO page_changes (site_id, page_id) VALUES (NEW.site_id, NEW.page_id); END IF;
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE TRIGGER pages_tell AFTER INSERT OR UPDATE OR DELETE ON pages FOR EACH ROW EXECUTE FUNCTION page_changed();
--> statement-breakpoint
CREATE TRIGGER publications_tell AFTER INSERT ON publications FOR EACH ROW EXECUTE FUNCTION thing_of_page_changed();
--> statement-breakpoint
CREATE TRIGGER reviews_tell AFTER INSERT OR UPDATE OR DELETE ON reviews FOR EACH ROW EXECUTE FUNCTION thing_of_page_changed();
--> statement-breakpoint
CREATE TRIGGER drafts_tell AFTER INSERT OR DELETE ON drafts FOR EACH ROW EXECUTE FUNCTION thing_of_page_changed();
--> statement-breakpoint
CREATE TRIGGER drafts_retitled_tell AFTER UPDATE ON drafts FOR EACH ROW WHEN (OLD.content->>'title' IS DISTINCT FROM NEW.content->>'title') EXECUTE FUNCTION thing_of_page_changed();
