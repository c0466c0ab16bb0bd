-- What a page's row says of its settings, as a content says it.
CREATE FUNCTION pg_temp.in_force(i items) RETURNS jsonb LANGUAGE sql IMMUTABLE AS $$
  SELECT jsonb_build_object(
    'page.layout', i.layout, 'page.slug', i.slug, 'page.ownAddress', coalesce(i.own_address, ''),
    'page.shortName', coalesce(i.short_name, ''), 'page.inNavigation', i.in_navigation,
    'page.author', i.author_id::text, 'page.day', coalesce(i.day, ''), 'page.language', i.language)
$$;--> statement-breakpoint
-- What a content leaves out, or leaves as it was, is what the row says.
CREATE FUNCTION pg_temp.with_settings(i items, content jsonb) RETURNS jsonb LANGUAGE sql IMMUTABLE AS $$
  SELECT '{"page.redirect": true, "page.searchTitle": "", "page.searchText": ""}' || pg_temp.in_force(i) || (content
    - CASE WHEN content -> 'page.author' = 'null' THEN 'page.author' ELSE '' END
    - CASE WHEN content ->> 'page.slug' = '' OR i.parent_id IS NULL THEN 'page.slug' ELSE '' END
    - CASE WHEN content ->> 'page.layout' = '' THEN 'page.layout' ELSE '' END
    - CASE WHEN i.parent_id IS NULL THEN 'page.ownAddress' ELSE '' END)
$$;--> statement-breakpoint
ALTER TABLE "revisions" DISABLE TRIGGER "revisions_stay";--> statement-breakpoint
UPDATE revisions r SET content = pg_temp.with_settings(i, r.content) FROM items i
  WHERE i.id = r.item_id AND i.type = 'page' AND r.content IS DISTINCT FROM pg_temp.with_settings(i, r.content);--> statement-breakpoint
ALTER TABLE "revisions" ENABLE TRIGGER "revisions_stay";--> statement-breakpoint
UPDATE drafts d SET content = pg_temp.with_settings(i, d.content) FROM items i WHERE i.id = d.item_id AND i.type = 'page';--> statement-breakpoint
INSERT INTO item_references (site_id, item_id, revision_id, field, kind, target)
SELECT k.site_id, k.item_id, k.id, 'page.author', 'person', k.content ->> 'page.author' FROM (
  SELECT site_id, item_id, id, content FROM revisions UNION ALL SELECT site_id, item_id, NULL, content FROM drafts
) AS k WHERE k.content ->> 'page.author' <> '' AND NOT EXISTS (
  SELECT 1 FROM item_references f WHERE f.item_id = k.item_id AND f.revision_id IS NOT DISTINCT FROM k.id AND f.field = 'page.author');--> statement-breakpoint
-- Where settings were changed beside any words, what is in force goes on in a version of its own.
CREATE TEMP TABLE ahead ON COMMIT DROP AS
  SELECT i.id, i.site_id, r.id AS was, i.live_revision_id IS NOT NULL AS live, r.content || pg_temp.in_force(i) AS content
  FROM items i JOIN revisions r ON r.id = coalesce(i.live_revision_id, i.down_revision_id)
  WHERE i.type = 'page' AND r.content IS DISTINCT FROM r.content || pg_temp.in_force(i);--> statement-breakpoint
INSERT INTO revisions (site_id, item_id, number, content, kind, note)
  SELECT a.site_id, a.id, (SELECT max(number) + 1 FROM revisions r WHERE r.item_id = a.id), a.content, 'adjusted', 'With the settings in force' FROM ahead a;--> statement-breakpoint
INSERT INTO item_references (site_id, item_id, revision_id, field, kind, target)
  SELECT f.site_id, f.item_id, r.id, f.field, f.kind, CASE f.field WHEN 'page.author' THEN a.content ->> 'page.author' ELSE f.target END
  FROM ahead a JOIN revisions r ON r.item_id = a.id AND r.kind = 'adjusted' JOIN item_references f ON f.revision_id = a.was;--> statement-breakpoint
INSERT INTO publications (site_id, item_id, revision_id)
  SELECT a.site_id, a.id, r.id FROM ahead a JOIN revisions r ON r.item_id = a.id AND r.kind = 'adjusted' WHERE a.live;--> statement-breakpoint
UPDATE items i SET
  live_revision_id = CASE WHEN a.live THEN r.id END,
  down_revision_id = CASE WHEN a.live THEN i.down_revision_id ELSE r.id END
  FROM ahead a JOIN revisions r ON r.item_id = a.id AND r.kind = 'adjusted' WHERE i.id = a.id;
