ALTER TABLE "item_references" ADD COLUMN "times" integer DEFAULT 1 NOT NULL;--> statement-breakpoint
-- What texts hold that tools make, of every version and draft there is.
INSERT INTO item_references (site_id, item_id, revision_id, field, kind, target, times)
WITH kept AS (
  SELECT site_id, item_id, id AS revision_id, content FROM revisions
  UNION ALL SELECT site_id, item_id, NULL, content FROM drafts
), parts AS (
  SELECT site_id, item_id, revision_id, f.key AS field, part, part ->> 'type' AS type
  FROM kept, jsonb_each(content) AS f, jsonb_path_query(f.value, 'strict $.** ? (exists (@.type))') AS part
), made AS (
  SELECT site_id, item_id, revision_id, field, CASE type
    WHEN 'heading' THEN 'heading.' || (part -> 'attrs' ->> 'level')
    WHEN 'link' THEN CASE
      WHEN part -> 'attrs' ->> 'href' ~* '^mailto:' THEN 'link.mail'
      WHEN part -> 'attrs' ->> 'href' ~* '^tel:' THEN 'link.phone'
      WHEN part -> 'attrs' ->> 'href' ~* '^https?:' THEN 'link.web'
      WHEN part -> 'attrs' ->> 'href' ~ '^(picture:|/media/)' THEN 'link.file'
      ELSE 'link.page' END
    ELSE type END AS target
  FROM parts WHERE type NOT IN ('doc', 'paragraph', 'text', 'listItem', 'hardBreak', 'tableCell', 'tableHeader')
)
SELECT site_id, item_id, revision_id, field, 'made', target, count(*) FROM made WHERE target IS NOT NULL
GROUP BY site_id, item_id, revision_id, field, target;
