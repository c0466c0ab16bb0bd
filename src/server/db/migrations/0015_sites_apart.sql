CREATE TABLE "accounts" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "accounts_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"password_hash" text,
	"wrong_tries" integer DEFAULT 0 NOT NULL,
	"wrong_since" timestamp with time zone
);--> statement-breakpoint
ALTER TABLE "sites" ADD COLUMN "host" text;--> statement-breakpoint
ALTER TABLE "sites" ADD COLUMN "languages" text[] DEFAULT '{"en"}' NOT NULL;--> statement-breakpoint
ALTER TABLE "people" ADD COLUMN "account_id" integer;--> statement-breakpoint
-- Everybody has an account of their own.
ALTER TABLE "accounts" ADD COLUMN "person" integer;--> statement-breakpoint
INSERT INTO "accounts" ("password_hash", "wrong_tries", "wrong_since", "person") SELECT "password_hash", "wrong_tries", "wrong_since", "id" FROM "people" ORDER BY "id";--> statement-breakpoint
UPDATE "people" SET "account_id" = "accounts"."id" FROM "accounts" WHERE "accounts"."person" = "people"."id";--> statement-breakpoint
ALTER TABLE "accounts" DROP COLUMN "person";--> statement-breakpoint
ALTER TABLE "people" ALTER COLUMN "account_id" SET NOT NULL;--> statement-breakpoint
-- A row names rows of its own site only.
ALTER TABLE "items" ADD CONSTRAINT "items_of_site" UNIQUE("site_id","id");--> statement-breakpoint
ALTER TABLE "people" ADD CONSTRAINT "people_of_site" UNIQUE("site_id","id");--> statement-breakpoint
ALTER TABLE "releases" ADD CONSTRAINT "releases_of_site" UNIQUE("site_id","id");--> statement-breakpoint
ALTER TABLE "remarks" ADD CONSTRAINT "remarks_of_site" UNIQUE("site_id","id");--> statement-breakpoint
ALTER TABLE "reviews" ADD CONSTRAINT "reviews_of_site" UNIQUE("site_id","id");--> statement-breakpoint
ALTER TABLE "revisions" ADD CONSTRAINT "revisions_of_site" UNIQUE("site_id","id");--> statement-breakpoint
ALTER TABLE "sites" ADD CONSTRAINT "sites_host_unique" UNIQUE("host");--> statement-breakpoint
ALTER TABLE "activity" DROP CONSTRAINT "activity_person_id_people_id_fk";--> statement-breakpoint
ALTER TABLE "assignments" DROP CONSTRAINT "assignments_person_id_people_id_fk";--> statement-breakpoint
ALTER TABLE "assignments" DROP CONSTRAINT "assignments_branch_id_items_id_fk";--> statement-breakpoint
ALTER TABLE "drafts" DROP CONSTRAINT "drafts_item_id_items_id_fk";--> statement-breakpoint
ALTER TABLE "drafts" DROP CONSTRAINT "drafts_started_by_people_id_fk";--> statement-breakpoint
ALTER TABLE "drafts" DROP CONSTRAINT "drafts_updated_by_people_id_fk";--> statement-breakpoint
ALTER TABLE "items" DROP CONSTRAINT "items_parent_id_items_id_fk";--> statement-breakpoint
ALTER TABLE "items" DROP CONSTRAINT "items_author_id_people_id_fk";--> statement-breakpoint
ALTER TABLE "items" DROP CONSTRAINT "items_live_revision_id_revisions_id_fk";--> statement-breakpoint
ALTER TABLE "items" DROP CONSTRAINT "items_down_revision_id_revisions_id_fk";--> statement-breakpoint
ALTER TABLE "items" DROP CONSTRAINT "items_deleted_by_people_id_fk";--> statement-breakpoint
ALTER TABLE "known_browsers" DROP CONSTRAINT "known_browsers_person_id_people_id_fk";--> statement-breakpoint
ALTER TABLE "media" DROP CONSTRAINT "media_author_id_people_id_fk";--> statement-breakpoint
ALTER TABLE "notes" DROP CONSTRAINT "notes_item_id_items_id_fk";--> statement-breakpoint
ALTER TABLE "notes" DROP CONSTRAINT "notes_made_by_people_id_fk";--> statement-breakpoint
ALTER TABLE "notices" DROP CONSTRAINT "notices_page_id_items_id_fk";--> statement-breakpoint
ALTER TABLE "notices" DROP CONSTRAINT "notices_posted_by_people_id_fk";--> statement-breakpoint
ALTER TABLE "notices" DROP CONSTRAINT "notices_ended_by_people_id_fk";--> statement-breakpoint
ALTER TABLE "plan_marks" DROP CONSTRAINT "plan_marks_made_by_people_id_fk";--> statement-breakpoint
ALTER TABLE "plan_presence" DROP CONSTRAINT "plan_presence_person_id_people_id_fk";--> statement-breakpoint
ALTER TABLE "plan_steps" DROP CONSTRAINT "plan_steps_made_by_people_id_fk";--> statement-breakpoint
ALTER TABLE "presence" DROP CONSTRAINT "presence_item_id_items_id_fk";--> statement-breakpoint
ALTER TABLE "presence" DROP CONSTRAINT "presence_person_id_people_id_fk";--> statement-breakpoint
ALTER TABLE "preview_links" DROP CONSTRAINT "preview_links_item_id_items_id_fk";--> statement-breakpoint
ALTER TABLE "preview_links" DROP CONSTRAINT "preview_links_made_by_people_id_fk";--> statement-breakpoint
ALTER TABLE "progress" DROP CONSTRAINT "progress_person_id_people_id_fk";--> statement-breakpoint
ALTER TABLE "publications" DROP CONSTRAINT "publications_item_id_items_id_fk";--> statement-breakpoint
ALTER TABLE "publications" DROP CONSTRAINT "publications_revision_id_revisions_id_fk";--> statement-breakpoint
ALTER TABLE "publications" DROP CONSTRAINT "publications_published_by_people_id_fk";--> statement-breakpoint
ALTER TABLE "receipts" DROP CONSTRAINT "receipts_person_id_people_id_fk";--> statement-breakpoint
ALTER TABLE "redirects" DROP CONSTRAINT "redirects_page_id_items_id_fk";--> statement-breakpoint
ALTER TABLE "redirects" DROP CONSTRAINT "redirects_made_by_people_id_fk";--> statement-breakpoint
ALTER TABLE "item_references" DROP CONSTRAINT "item_references_item_id_items_id_fk";--> statement-breakpoint
ALTER TABLE "item_references" DROP CONSTRAINT "item_references_revision_id_revisions_id_fk";--> statement-breakpoint
ALTER TABLE "releases" DROP CONSTRAINT "releases_made_by_people_id_fk";--> statement-breakpoint
ALTER TABLE "remarks" DROP CONSTRAINT "remarks_review_id_reviews_id_fk";--> statement-breakpoint
ALTER TABLE "remarks" DROP CONSTRAINT "remarks_answers_remarks_id_fk";--> statement-breakpoint
ALTER TABLE "remarks" DROP CONSTRAINT "remarks_made_by_people_id_fk";--> statement-breakpoint
ALTER TABLE "remarks" DROP CONSTRAINT "remarks_settled_by_people_id_fk";--> statement-breakpoint
ALTER TABLE "reviews" DROP CONSTRAINT "reviews_item_id_items_id_fk";--> statement-breakpoint
ALTER TABLE "reviews" DROP CONSTRAINT "reviews_revision_id_revisions_id_fk";--> statement-breakpoint
ALTER TABLE "reviews" DROP CONSTRAINT "reviews_sent_by_people_id_fk";--> statement-breakpoint
ALTER TABLE "reviews" DROP CONSTRAINT "reviews_asked_of_people_id_fk";--> statement-breakpoint
ALTER TABLE "reviews" DROP CONSTRAINT "reviews_decided_by_people_id_fk";--> statement-breakpoint
ALTER TABLE "revisions" DROP CONSTRAINT "revisions_item_id_items_id_fk";--> statement-breakpoint
ALTER TABLE "revisions" DROP CONSTRAINT "revisions_made_by_people_id_fk";--> statement-breakpoint
ALTER TABLE "saved_filters" DROP CONSTRAINT "saved_filters_person_id_people_id_fk";--> statement-breakpoint
ALTER TABLE "schedules" DROP CONSTRAINT "schedules_item_id_items_id_fk";--> statement-breakpoint
ALTER TABLE "schedules" DROP CONSTRAINT "schedules_revision_id_revisions_id_fk";--> statement-breakpoint
ALTER TABLE "schedules" DROP CONSTRAINT "schedules_made_by_people_id_fk";--> statement-breakpoint
ALTER TABLE "sessions" DROP CONSTRAINT "sessions_person_id_people_id_fk";--> statement-breakpoint
ALTER TABLE "sessions" DROP CONSTRAINT "sessions_step_in_as_people_id_fk";--> statement-breakpoint
ALTER TABLE "setup_links" DROP CONSTRAINT "setup_links_person_id_people_id_fk";--> statement-breakpoint
ALTER TABLE "setup_links" DROP CONSTRAINT "setup_links_made_by_people_id_fk";--> statement-breakpoint
ALTER TABLE "activity" ADD CONSTRAINT "activity_site_id_person_id_people_site_id_id_fk" FOREIGN KEY ("site_id","person_id") REFERENCES "public"."people"("site_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "assignments" ADD CONSTRAINT "assignments_site_id_person_id_people_site_id_id_fk" FOREIGN KEY ("site_id","person_id") REFERENCES "public"."people"("site_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "assignments" ADD CONSTRAINT "assignments_site_id_branch_id_items_site_id_id_fk" FOREIGN KEY ("site_id","branch_id") REFERENCES "public"."items"("site_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "drafts" ADD CONSTRAINT "drafts_site_id_item_id_items_site_id_id_fk" FOREIGN KEY ("site_id","item_id") REFERENCES "public"."items"("site_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "drafts" ADD CONSTRAINT "drafts_site_id_started_by_people_site_id_id_fk" FOREIGN KEY ("site_id","started_by") REFERENCES "public"."people"("site_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "drafts" ADD CONSTRAINT "drafts_site_id_updated_by_people_site_id_id_fk" FOREIGN KEY ("site_id","updated_by") REFERENCES "public"."people"("site_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "items" ADD CONSTRAINT "items_site_id_parent_id_items_site_id_id_fk" FOREIGN KEY ("site_id","parent_id") REFERENCES "public"."items"("site_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "items" ADD CONSTRAINT "items_site_id_live_revision_id_revisions_site_id_id_fk" FOREIGN KEY ("site_id","live_revision_id") REFERENCES "public"."revisions"("site_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "items" ADD CONSTRAINT "items_site_id_down_revision_id_revisions_site_id_id_fk" FOREIGN KEY ("site_id","down_revision_id") REFERENCES "public"."revisions"("site_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "items" ADD CONSTRAINT "items_site_id_author_id_people_site_id_id_fk" FOREIGN KEY ("site_id","author_id") REFERENCES "public"."people"("site_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "items" ADD CONSTRAINT "items_site_id_deleted_by_people_site_id_id_fk" FOREIGN KEY ("site_id","deleted_by") REFERENCES "public"."people"("site_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "known_browsers" ADD CONSTRAINT "known_browsers_site_id_person_id_people_site_id_id_fk" FOREIGN KEY ("site_id","person_id") REFERENCES "public"."people"("site_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "media" ADD CONSTRAINT "media_site_id_author_id_people_site_id_id_fk" FOREIGN KEY ("site_id","author_id") REFERENCES "public"."people"("site_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "notes" ADD CONSTRAINT "notes_site_id_item_id_items_site_id_id_fk" FOREIGN KEY ("site_id","item_id") REFERENCES "public"."items"("site_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "notes" ADD CONSTRAINT "notes_site_id_made_by_people_site_id_id_fk" FOREIGN KEY ("site_id","made_by") REFERENCES "public"."people"("site_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "notices" ADD CONSTRAINT "notices_site_id_page_id_items_site_id_id_fk" FOREIGN KEY ("site_id","page_id") REFERENCES "public"."items"("site_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "notices" ADD CONSTRAINT "notices_site_id_posted_by_people_site_id_id_fk" FOREIGN KEY ("site_id","posted_by") REFERENCES "public"."people"("site_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "notices" ADD CONSTRAINT "notices_site_id_ended_by_people_site_id_id_fk" FOREIGN KEY ("site_id","ended_by") REFERENCES "public"."people"("site_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "people" ADD CONSTRAINT "people_account_id_accounts_id_fk" FOREIGN KEY ("account_id") REFERENCES "public"."accounts"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "plan_marks" ADD CONSTRAINT "plan_marks_site_id_made_by_people_site_id_id_fk" FOREIGN KEY ("site_id","made_by") REFERENCES "public"."people"("site_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "plan_presence" ADD CONSTRAINT "plan_presence_site_id_person_id_people_site_id_id_fk" FOREIGN KEY ("site_id","person_id") REFERENCES "public"."people"("site_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "plan_steps" ADD CONSTRAINT "plan_steps_site_id_made_by_people_site_id_id_fk" FOREIGN KEY ("site_id","made_by") REFERENCES "public"."people"("site_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "presence" ADD CONSTRAINT "presence_site_id_item_id_items_site_id_id_fk" FOREIGN KEY ("site_id","item_id") REFERENCES "public"."items"("site_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "presence" ADD CONSTRAINT "presence_site_id_person_id_people_site_id_id_fk" FOREIGN KEY ("site_id","person_id") REFERENCES "public"."people"("site_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "preview_links" ADD CONSTRAINT "preview_links_site_id_item_id_items_site_id_id_fk" FOREIGN KEY ("site_id","item_id") REFERENCES "public"."items"("site_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "preview_links" ADD CONSTRAINT "preview_links_site_id_made_by_people_site_id_id_fk" FOREIGN KEY ("site_id","made_by") REFERENCES "public"."people"("site_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "progress" ADD CONSTRAINT "progress_site_id_person_id_people_site_id_id_fk" FOREIGN KEY ("site_id","person_id") REFERENCES "public"."people"("site_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "publications" ADD CONSTRAINT "publications_site_id_item_id_items_site_id_id_fk" FOREIGN KEY ("site_id","item_id") REFERENCES "public"."items"("site_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "publications" ADD CONSTRAINT "publications_site_id_revision_id_revisions_site_id_id_fk" FOREIGN KEY ("site_id","revision_id") REFERENCES "public"."revisions"("site_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "publications" ADD CONSTRAINT "publications_site_id_published_by_people_site_id_id_fk" FOREIGN KEY ("site_id","published_by") REFERENCES "public"."people"("site_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "receipts" ADD CONSTRAINT "receipts_site_id_person_id_people_site_id_id_fk" FOREIGN KEY ("site_id","person_id") REFERENCES "public"."people"("site_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "redirects" ADD CONSTRAINT "redirects_site_id_page_id_items_site_id_id_fk" FOREIGN KEY ("site_id","page_id") REFERENCES "public"."items"("site_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "redirects" ADD CONSTRAINT "redirects_site_id_made_by_people_site_id_id_fk" FOREIGN KEY ("site_id","made_by") REFERENCES "public"."people"("site_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "item_references" ADD CONSTRAINT "item_references_site_id_item_id_items_site_id_id_fk" FOREIGN KEY ("site_id","item_id") REFERENCES "public"."items"("site_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "item_references" ADD CONSTRAINT "item_references_site_id_revision_id_revisions_site_id_id_fk" FOREIGN KEY ("site_id","revision_id") REFERENCES "public"."revisions"("site_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "releases" ADD CONSTRAINT "releases_site_id_made_by_people_site_id_id_fk" FOREIGN KEY ("site_id","made_by") REFERENCES "public"."people"("site_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "remarks" ADD CONSTRAINT "remarks_site_id_review_id_reviews_site_id_id_fk" FOREIGN KEY ("site_id","review_id") REFERENCES "public"."reviews"("site_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "remarks" ADD CONSTRAINT "remarks_site_id_answers_remarks_site_id_id_fk" FOREIGN KEY ("site_id","answers") REFERENCES "public"."remarks"("site_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "remarks" ADD CONSTRAINT "remarks_site_id_made_by_people_site_id_id_fk" FOREIGN KEY ("site_id","made_by") REFERENCES "public"."people"("site_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "remarks" ADD CONSTRAINT "remarks_site_id_settled_by_people_site_id_id_fk" FOREIGN KEY ("site_id","settled_by") REFERENCES "public"."people"("site_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "reviews" ADD CONSTRAINT "reviews_site_id_item_id_items_site_id_id_fk" FOREIGN KEY ("site_id","item_id") REFERENCES "public"."items"("site_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "reviews" ADD CONSTRAINT "reviews_site_id_revision_id_revisions_site_id_id_fk" FOREIGN KEY ("site_id","revision_id") REFERENCES "public"."revisions"("site_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "reviews" ADD CONSTRAINT "reviews_site_id_sent_by_people_site_id_id_fk" FOREIGN KEY ("site_id","sent_by") REFERENCES "public"."people"("site_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "reviews" ADD CONSTRAINT "reviews_site_id_asked_of_people_site_id_id_fk" FOREIGN KEY ("site_id","asked_of") REFERENCES "public"."people"("site_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "reviews" ADD CONSTRAINT "reviews_site_id_decided_by_people_site_id_id_fk" FOREIGN KEY ("site_id","decided_by") REFERENCES "public"."people"("site_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "revisions" ADD CONSTRAINT "revisions_site_id_item_id_items_site_id_id_fk" FOREIGN KEY ("site_id","item_id") REFERENCES "public"."items"("site_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "revisions" ADD CONSTRAINT "revisions_site_id_made_by_people_site_id_id_fk" FOREIGN KEY ("site_id","made_by") REFERENCES "public"."people"("site_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "saved_filters" ADD CONSTRAINT "saved_filters_site_id_person_id_people_site_id_id_fk" FOREIGN KEY ("site_id","person_id") REFERENCES "public"."people"("site_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "schedules" ADD CONSTRAINT "schedules_site_id_item_id_items_site_id_id_fk" FOREIGN KEY ("site_id","item_id") REFERENCES "public"."items"("site_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "schedules" ADD CONSTRAINT "schedules_site_id_revision_id_revisions_site_id_id_fk" FOREIGN KEY ("site_id","revision_id") REFERENCES "public"."revisions"("site_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "schedules" ADD CONSTRAINT "schedules_site_id_made_by_people_site_id_id_fk" FOREIGN KEY ("site_id","made_by") REFERENCES "public"."people"("site_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "sessions" ADD CONSTRAINT "sessions_site_id_person_id_people_site_id_id_fk" FOREIGN KEY ("site_id","person_id") REFERENCES "public"."people"("site_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "sessions" ADD CONSTRAINT "sessions_site_id_step_in_as_people_site_id_id_fk" FOREIGN KEY ("site_id","step_in_as") REFERENCES "public"."people"("site_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "setup_links" ADD CONSTRAINT "setup_links_site_id_person_id_people_site_id_id_fk" FOREIGN KEY ("site_id","person_id") REFERENCES "public"."people"("site_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "setup_links" ADD CONSTRAINT "setup_links_site_id_made_by_people_site_id_id_fk" FOREIGN KEY ("site_id","made_by") REFERENCES "public"."people"("site_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "people" DROP COLUMN "password_hash";--> statement-breakpoint
ALTER TABLE "people" DROP COLUMN "wrong_tries";--> statement-breakpoint
ALTER TABLE "people" DROP COLUMN "wrong_since";
