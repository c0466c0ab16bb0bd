ALTER TABLE "redirects" ADD COLUMN "leads" boolean DEFAULT true NOT NULL;--> statement-breakpoint
CREATE TABLE "item_references" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "item_references_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"site_id" integer NOT NULL,
	"item_id" integer NOT NULL,
	"revision_id" integer,
	"field" text NOT NULL,
	"kind" text NOT NULL,
	"target" text NOT NULL
);
--> statement-breakpoint
ALTER TABLE "item_references" ADD CONSTRAINT "item_references_site_id_sites_id_fk" FOREIGN KEY ("site_id") REFERENCES "public"."sites"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "item_references" ADD CONSTRAINT "item_references_item_id_items_id_fk" FOREIGN KEY ("item_id") REFERENCES "public"."items"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "item_references" ADD CONSTRAINT "item_references_revision_id_revisions_id_fk" FOREIGN KEY ("revision_id") REFERENCES "public"."revisions"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "item_references_site_id_kind_target_index" ON "item_references" USING btree ("site_id","kind","target");--> statement-breakpoint
CREATE INDEX "item_references_revision_id_index" ON "item_references" USING btree ("revision_id");--> statement-breakpoint
CREATE INDEX "item_references_item_id_index" ON "item_references" USING btree ("item_id");--> statement-breakpoint
-- Links to addresses of the website name the page or picture that is there, so that they follow it from now on.
CREATE TEMP TABLE link_names ON COMMIT DROP AS
WITH RECURSIVE pages AS (
  SELECT id, site_id, '/' AS address FROM items WHERE parent_id IS NULL AND type = 'page' AND deleted_at IS NULL
  UNION ALL
  SELECT i.id, i.site_id, coalesce(i.own_address, CASE WHEN p.address = '/' THEN '' ELSE p.address END || '/' || i.slug)
  FROM items i JOIN pages p ON p.id = i.parent_id WHERE i.type = 'page' AND i.deleted_at IS NULL
)
SELECT DISTINCT ON (site_id, address) site_id, address, name FROM (
  SELECT site_id, address, 'page:' || id AS name, 1 AS turn FROM pages
  UNION ALL SELECT r.site_id, r.address, 'page:' || r.page_id, 2 FROM redirects r JOIN pages p ON p.id = r.page_id
  UNION ALL SELECT site_id, '/media/' || hash, 'picture:' || min(id), 3 FROM media GROUP BY site_id, hash
) AS named ORDER BY site_id, address, turn;--> statement-breakpoint
CREATE FUNCTION pg_temp.link_name(site integer, href text) RETURNS text LANGUAGE sql STABLE AS $$
  SELECT n.name || substr(href, length(path) + 1) FROM (SELECT substring(href from '^[^?#]*') AS path) AS p
  JOIN link_names n ON n.site_id = site AND n.address = regexp_replace(path, '(.)/+$', '\1')
$$;--> statement-breakpoint
CREATE FUNCTION pg_temp.with_names(site integer, content jsonb) RETURNS jsonb LANGUAGE plpgsql AS $$
DECLARE
  found record;
  named text := content::text;
BEGIN
  FOR found IN SELECT DISTINCT h #>> '{}' AS href FROM jsonb_path_query(content, 'strict $.** ? (exists (@.href)).href') AS h WHERE jsonb_typeof(h) = 'string' LOOP
    IF pg_temp.link_name(site, found.href) IS NOT NULL THEN
      named := replace(named, '"href": ' || to_jsonb(found.href)::text, '"href": ' || to_jsonb(pg_temp.link_name(site, found.href))::text);
    END IF;
  END LOOP;
  RETURN named::jsonb;
END $$;--> statement-breakpoint
CREATE FUNCTION pg_temp.allowed_names(site integer, allowance jsonb) RETURNS jsonb LANGUAGE plpgsql AS $$
DECLARE
  found record;
  named text := allowance::text;
BEGIN
  FOR found IN SELECT DISTINCT k FROM jsonb_each(allowance) AS f(field, held), jsonb_object_keys(held) AS k WHERE k LIKE 'link:/%' LOOP
    IF pg_temp.link_name(site, substr(found.k, 6)) IS NOT NULL THEN
      named := replace(named, to_jsonb(found.k)::text || ': ', to_jsonb('link:' || pg_temp.link_name(site, substr(found.k, 6)))::text || ': ');
    END IF;
  END LOOP;
  RETURN named::jsonb;
END $$;--> statement-breakpoint
ALTER TABLE "revisions" DISABLE TRIGGER "revisions_stay";--> statement-breakpoint
UPDATE revisions SET content = pg_temp.with_names(site_id, content) WHERE content::text LIKE '%"href": "/%';--> statement-breakpoint
ALTER TABLE "revisions" ENABLE TRIGGER "revisions_stay";--> statement-breakpoint
UPDATE drafts SET content = pg_temp.with_names(site_id, content), allowance = pg_temp.allowed_names(site_id, allowance);--> statement-breakpoint
INSERT INTO item_references (site_id, item_id, revision_id, field, kind, target)
WITH kept AS (
  SELECT site_id, item_id, id AS revision_id, content FROM revisions
  UNION ALL SELECT site_id, item_id, NULL, content FROM drafts
), fields AS (
  SELECT site_id, item_id, revision_id, f.key AS field, f.value FROM kept, jsonb_each(content) AS f
), links AS (
  SELECT site_id, item_id, revision_id, field, h #>> '{}' AS href FROM fields, jsonb_path_query(value, 'strict $.** ? (exists (@.href)).href') AS h
)
SELECT site_id, item_id, revision_id, field, substring(href from '^(page|picture):'), substring(href from ':(\d+)') FROM links WHERE href ~ '^(page|picture):\d+'
UNION SELECT site_id, item_id, revision_id, field, 'address', regexp_replace(substring(href from '^[^?#]*'), '(.)/+$', '\1') FROM links WHERE href LIKE '/%'
UNION SELECT site_id, item_id, revision_id, field, 'picture', p #>> '{}' FROM fields, jsonb_path_query(value, 'strict $.** ? (@.type == "picture").attrs.id') AS p WHERE jsonb_typeof(p) = 'string'
UNION SELECT site_id, item_id, revision_id, field, 'picture', p #>> '{}' FROM fields, jsonb_path_query(value, 'strict $.** ? (exists (@.picture)).picture') AS p WHERE jsonb_typeof(p) = 'string'
UNION SELECT site_id, item_id, revision_id, field, CASE field WHEN 'banner' THEN 'picture' ELSE 'person' END, value #>> '{}' FROM fields WHERE field IN ('banner', 'page.author') AND jsonb_typeof(value) = 'string' AND value #>> '{}' <> '';
