-- How PostgreSQL's full text search reads a language; word by word where it knows none of its stems.
CREATE FUNCTION search_language(tag text) RETURNS regconfig LANGUAGE sql IMMUTABLE PARALLEL SAFE AS $$
  SELECT CASE coalesce(tag, 'en')
    WHEN 'en' THEN 'english'::regconfig WHEN 'nl' THEN 'dutch'::regconfig WHEN 'fr' THEN 'french'::regconfig
    WHEN 'de' THEN 'german'::regconfig WHEN 'nb' THEN 'norwegian'::regconfig WHEN 'ar' THEN 'arabic'::regconfig
    ELSE 'simple'::regconfig END
$$;--> statement-breakpoint
ALTER TABLE "revisions" drop column "words";--> statement-breakpoint
ALTER TABLE "revisions" ADD COLUMN "words" "tsvector" GENERATED ALWAYS AS (setweight(to_tsvector(search_language(content->>'page.language'), coalesce(content->>'title', '')), 'A') || setweight(to_tsvector(search_language(content->>'page.language'), coalesce(content->>'summary', '')), 'B') || setweight(jsonb_to_tsvector(search_language(content->>'page.language'), jsonb_path_query_array(content, 'strict $.** ? (exists (@.text)).text'), '["string"]'), 'C')) STORED;--> statement-breakpoint
CREATE INDEX "revisions_words" ON "revisions" USING gin ("words");
