CREATE TABLE "known_browsers" (
	"token_hash" text PRIMARY KEY NOT NULL,
	"site_id" integer NOT NULL,
	"person_id" integer NOT NULL,
	"seen_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
ALTER TABLE "drafts" ADD COLUMN "writers" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "people" ADD COLUMN "wrong_tries" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "people" ADD COLUMN "wrong_since" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "preview_links" ADD COLUMN "id" integer NOT NULL GENERATED ALWAYS AS IDENTITY (sequence name "preview_links_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1);--> statement-breakpoint
ALTER TABLE "preview_links" ADD COLUMN "audience" jsonb;--> statement-breakpoint
ALTER TABLE "preview_links" ADD COLUMN "ended_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "receipts" ADD COLUMN "request" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "revisions" ADD COLUMN "writers" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "setup_links" ADD COLUMN "made_by" integer;--> statement-breakpoint
ALTER TABLE "known_browsers" ADD CONSTRAINT "known_browsers_site_id_sites_id_fk" FOREIGN KEY ("site_id") REFERENCES "public"."sites"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "known_browsers" ADD CONSTRAINT "known_browsers_person_id_people_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "known_browsers_person_id_index" ON "known_browsers" USING btree ("person_id");--> statement-breakpoint
ALTER TABLE "setup_links" ADD CONSTRAINT "setup_links_made_by_people_id_fk" FOREIGN KEY ("made_by") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "receipts_made_at_index" ON "receipts" USING btree ("made_at");--> statement-breakpoint
UPDATE "drafts" SET "writers" = (SELECT coalesce(jsonb_agg(DISTINCT w), '[]') FROM unnest(ARRAY["started_by", "updated_by"]) AS w WHERE w IS NOT NULL);--> statement-breakpoint
UPDATE "mails" SET "text" = regexp_replace("text", '\S+[?]token=\S+', '(the link is shown once, to whoever made it)', 'g');
