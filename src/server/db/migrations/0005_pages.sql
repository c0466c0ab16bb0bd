CREATE TABLE "page_notes" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "page_notes_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"site_id" integer NOT NULL,
	"page_id" integer NOT NULL,
	"text" text NOT NULL,
	"made_by" integer,
	"made_at" timestamp with time zone DEFAULT now() NOT NULL,
	"settled_at" timestamp with time zone
);
--> statement-breakpoint
CREATE TABLE "presence" (
	"page_id" integer NOT NULL,
	"person_id" integer NOT NULL,
	"site_id" integer NOT NULL,
	"seen_at" timestamp with time zone DEFAULT now() NOT NULL,
	"typing" boolean DEFAULT false NOT NULL,
	CONSTRAINT "presence_page_id_person_id_pk" PRIMARY KEY("page_id","person_id")
);
--> statement-breakpoint
CREATE TABLE "preview_links" (
	"token_hash" text PRIMARY KEY NOT NULL,
	"site_id" integer NOT NULL,
	"page_id" integer NOT NULL,
	"made_by" integer,
	"made_at" timestamp with time zone DEFAULT now() NOT NULL,
	"expires_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "redirects" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "redirects_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"site_id" integer NOT NULL,
	"address" text NOT NULL,
	"page_id" integer NOT NULL,
	"made_by" integer,
	"made_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "remarks" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "remarks_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"site_id" integer NOT NULL,
	"review_id" integer NOT NULL,
	"answers" integer,
	"field" text NOT NULL,
	"quote" text NOT NULL,
	"text" text NOT NULL,
	"made_by" integer,
	"made_at" timestamp with time zone DEFAULT now() NOT NULL,
	"settled_at" timestamp with time zone,
	"settled_by" integer
);
--> statement-breakpoint
CREATE TABLE "saved_filters" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "saved_filters_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"site_id" integer NOT NULL,
	"person_id" integer NOT NULL,
	"name" text NOT NULL,
	"query" text NOT NULL
);
--> statement-breakpoint
CREATE TABLE "schedules" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "schedules_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"site_id" integer NOT NULL,
	"page_id" integer NOT NULL,
	"what" text NOT NULL,
	"revision_id" integer,
	"due_at" timestamp with time zone NOT NULL,
	"made_by" integer,
	"made_at" timestamp with time zone DEFAULT now() NOT NULL,
	"done_at" timestamp with time zone,
	"failed" text
);
--> statement-breakpoint
DROP INDEX "pages_parent_id_slug_index";--> statement-breakpoint
DROP INDEX "pages_site_id_index";--> statement-breakpoint
ALTER TABLE "pages" ADD COLUMN "own_address" text;--> statement-breakpoint
ALTER TABLE "pages" ADD COLUMN "day" text;--> statement-breakpoint
ALTER TABLE "pages" ADD COLUMN "language" text DEFAULT 'en' NOT NULL;--> statement-breakpoint
ALTER TABLE "pages" ADD COLUMN "down_revision_id" integer;--> statement-breakpoint
ALTER TABLE "pages" ADD COLUMN "deleted_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "pages" ADD COLUMN "deleted_by" integer;--> statement-breakpoint
ALTER TABLE "reviews" ADD COLUMN "asked_of" integer;--> statement-breakpoint
ALTER TABLE "page_notes" ADD CONSTRAINT "page_notes_site_id_sites_id_fk" FOREIGN KEY ("site_id") REFERENCES "public"."sites"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "page_notes" ADD CONSTRAINT "page_notes_page_id_pages_id_fk" FOREIGN KEY ("page_id") REFERENCES "public"."pages"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "page_notes" ADD CONSTRAINT "page_notes_made_by_people_id_fk" FOREIGN KEY ("made_by") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "presence" ADD CONSTRAINT "presence_page_id_pages_id_fk" FOREIGN KEY ("page_id") REFERENCES "public"."pages"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "presence" ADD CONSTRAINT "presence_person_id_people_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "presence" ADD CONSTRAINT "presence_site_id_sites_id_fk" FOREIGN KEY ("site_id") REFERENCES "public"."sites"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "preview_links" ADD CONSTRAINT "preview_links_site_id_sites_id_fk" FOREIGN KEY ("site_id") REFERENCES "public"."sites"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "preview_links" ADD CONSTRAINT "preview_links_page_id_pages_id_fk" FOREIGN KEY ("page_id") REFERENCES "public"."pages"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "preview_links" ADD CONSTRAINT "preview_links_made_by_people_id_fk" FOREIGN KEY ("made_by") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "redirects" ADD CONSTRAINT "redirects_site_id_sites_id_fk" FOREIGN KEY ("site_id") REFERENCES "public"."sites"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "redirects" ADD CONSTRAINT "redirects_page_id_pages_id_fk" FOREIGN KEY ("page_id") REFERENCES "public"."pages"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "redirects" ADD CONSTRAINT "redirects_made_by_people_id_fk" FOREIGN KEY ("made_by") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "remarks" ADD CONSTRAINT "remarks_site_id_sites_id_fk" FOREIGN KEY ("site_id") REFERENCES "public"."sites"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "remarks" ADD CONSTRAINT "remarks_review_id_reviews_id_fk" FOREIGN KEY ("review_id") REFERENCES "public"."reviews"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "remarks" ADD CONSTRAINT "remarks_answers_remarks_id_fk" FOREIGN KEY ("answers") REFERENCES "public"."remarks"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "remarks" ADD CONSTRAINT "remarks_made_by_people_id_fk" FOREIGN KEY ("made_by") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "remarks" ADD CONSTRAINT "remarks_settled_by_people_id_fk" FOREIGN KEY ("settled_by") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "saved_filters" ADD CONSTRAINT "saved_filters_site_id_sites_id_fk" FOREIGN KEY ("site_id") REFERENCES "public"."sites"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "saved_filters" ADD CONSTRAINT "saved_filters_person_id_people_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "schedules" ADD CONSTRAINT "schedules_site_id_sites_id_fk" FOREIGN KEY ("site_id") REFERENCES "public"."sites"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "schedules" ADD CONSTRAINT "schedules_page_id_pages_id_fk" FOREIGN KEY ("page_id") REFERENCES "public"."pages"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "schedules" ADD CONSTRAINT "schedules_revision_id_revisions_id_fk" FOREIGN KEY ("revision_id") REFERENCES "public"."revisions"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "schedules" ADD CONSTRAINT "schedules_made_by_people_id_fk" FOREIGN KEY ("made_by") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "page_notes_page_id_index" ON "page_notes" USING btree ("page_id");--> statement-breakpoint
CREATE INDEX "preview_links_page_id_index" ON "preview_links" USING btree ("page_id");--> statement-breakpoint
CREATE UNIQUE INDEX "redirects_site_id_address_index" ON "redirects" USING btree ("site_id","address");--> statement-breakpoint
CREATE INDEX "remarks_review_id_index" ON "remarks" USING btree ("review_id");--> statement-breakpoint
CREATE UNIQUE INDEX "saved_filters_person_id_name_index" ON "saved_filters" USING btree ("person_id","name");--> statement-breakpoint
CREATE UNIQUE INDEX "schedules_one_open" ON "schedules" USING btree ("page_id","what") WHERE done_at is null;--> statement-breakpoint
CREATE INDEX "schedules_due_at_index" ON "schedules" USING btree ("due_at");--> statement-breakpoint
ALTER TABLE "pages" ADD CONSTRAINT "pages_down_revision_id_revisions_id_fk" FOREIGN KEY ("down_revision_id") REFERENCES "public"."revisions"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "pages" ADD CONSTRAINT "pages_deleted_by_people_id_fk" FOREIGN KEY ("deleted_by") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "reviews" ADD CONSTRAINT "reviews_asked_of_people_id_fk" FOREIGN KEY ("asked_of") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "pages_slug" ON "pages" USING btree ("parent_id","slug") WHERE deleted_at is null;--> statement-breakpoint
CREATE UNIQUE INDEX "pages_own_address" ON "pages" USING btree ("site_id","own_address") WHERE deleted_at is null;--> statement-breakpoint
CREATE INDEX "pages_site_parent" ON "pages" USING btree ("site_id","parent_id","position");