ALTER TABLE "pages" RENAME TO "items";--> statement-breakpoint
ALTER TABLE "items" ADD COLUMN "type" text DEFAULT 'page' NOT NULL;--> statement-breakpoint
ALTER TABLE "items" ALTER COLUMN "slug" SET DEFAULT '';--> statement-breakpoint
ALTER TABLE "items" ALTER COLUMN "position" SET DEFAULT 0;--> statement-breakpoint
ALTER TABLE "page_notes" RENAME TO "notes";--> statement-breakpoint
ALTER TABLE "drafts" RENAME COLUMN "page_id" TO "item_id";--> statement-breakpoint
ALTER TABLE "notes" RENAME COLUMN "page_id" TO "item_id";--> statement-breakpoint
ALTER TABLE "presence" RENAME COLUMN "page_id" TO "item_id";--> statement-breakpoint
ALTER TABLE "preview_links" RENAME COLUMN "page_id" TO "item_id";--> statement-breakpoint
ALTER TABLE "publications" RENAME COLUMN "page_id" TO "item_id";--> statement-breakpoint
ALTER TABLE "reviews" RENAME COLUMN "page_id" TO "item_id";--> statement-breakpoint
ALTER TABLE "revisions" RENAME COLUMN "page_id" TO "item_id";--> statement-breakpoint
ALTER TABLE "schedules" RENAME COLUMN "page_id" TO "item_id";--> statement-breakpoint
DROP INDEX "pages_slug";--> statement-breakpoint
CREATE UNIQUE INDEX "items_slug" ON "items" USING btree ("parent_id","slug") WHERE deleted_at is null and type = 'page';--> statement-breakpoint
-- Constraints, indexes and sequences are called after what they are of now.
DO $$
DECLARE
  old record;
  called text;
BEGIN
  FOR old IN SELECT c.conname, c.conrelid::regclass AS rel FROM pg_constraint c JOIN pg_namespace n ON n.oid = c.connamespace
    WHERE n.nspname = 'public' AND (c.conname ~ '(^|_)pages?_' AND c.conrelid::regclass::text <> 'page_changes') LOOP
    called := regexp_replace(old.conname, '^page_notes_', 'notes_');
    called := regexp_replace(regexp_replace(called, '^pages_', 'items_'), '_pages_id_fk$', '_items_id_fk');
    IF old.rel::text NOT IN ('notices', 'redirects') THEN called := replace(called, '_page_id_', '_item_id_'); END IF;
    IF called <> old.conname THEN EXECUTE format('ALTER TABLE %s RENAME CONSTRAINT %I TO %I', old.rel, old.conname, called); END IF;
  END LOOP;
  FOR old IN SELECT c.relname AS conname, i.indrelid::regclass AS rel FROM pg_class c JOIN pg_index i ON i.indexrelid = c.oid JOIN pg_namespace n ON n.oid = c.relnamespace
    WHERE n.nspname = 'public' AND c.relname ~ '(^|_)pages?_' AND i.indrelid::regclass::text NOT IN ('page_changes', 'redirects') LOOP
    called := regexp_replace(regexp_replace(old.conname, '^page_notes_', 'notes_'), '^pages_', 'items_');
    called := replace(called, '_page_id_', '_item_id_');
    IF called <> old.conname THEN EXECUTE format('ALTER INDEX %I RENAME TO %I', old.conname, called); END IF;
  END LOOP;
END $$;--> statement-breakpoint
ALTER SEQUENCE "pages_id_seq" RENAME TO "items_id_seq";--> statement-breakpoint
ALTER SEQUENCE "page_notes_id_seq" RENAME TO "notes_id_seq";--> statement-breakpoint
CREATE OR REPLACE FUNCTION thing_of_page_changed() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  IF TG_OP <> 'INSERT' THEN INSERT INTO page_changes (site_id, page_id) VALUES (OLD.site_id, OLD.item_id); END IF;
  IF TG_OP = 'INSERT' THEN INSERT INTO page_changes (site_id, page_id) VALUES (NEW.site_id, NEW.item_id); END IF;
  RETURN NULL;
END $$;
