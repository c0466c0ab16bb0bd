CREATE TABLE "mails" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "mails_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"site_id" integer NOT NULL,
	"to" text NOT NULL,
	"subject" text NOT NULL,
	"text" text NOT NULL,
	"made_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
ALTER TABLE "people" ALTER COLUMN "password_hash" DROP NOT NULL;--> statement-breakpoint
ALTER TABLE "pages" ADD COLUMN "audience" jsonb;--> statement-breakpoint
ALTER TABLE "setup_links" ADD COLUMN "person_id" integer;--> statement-breakpoint
ALTER TABLE "mails" ADD CONSTRAINT "mails_site_id_sites_id_fk" FOREIGN KEY ("site_id") REFERENCES "public"."sites"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "mails_site_id_id_index" ON "mails" USING btree ("site_id","id");--> statement-breakpoint
ALTER TABLE "setup_links" ADD CONSTRAINT "setup_links_person_id_people_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
UPDATE "plans" SET "plan" = "plan" || '{"apart":[]}' WHERE NOT "plan" ? 'apart';--> statement-breakpoint
ALTER TABLE "releases" DISABLE TRIGGER "releases_stay";--> statement-breakpoint
UPDATE "releases" SET "plan" = "plan" || '{"apart":[]}' WHERE NOT "plan" ? 'apart';--> statement-breakpoint
ALTER TABLE "releases" ENABLE TRIGGER "releases_stay";--> statement-breakpoint
UPDATE "plan_steps" SET "before" = jsonb_build_object('roles', jsonb_build_object("before"->>'id', "before")), "after" = jsonb_build_object('roles', jsonb_build_object("after"->>'id', "after")) WHERE "before" ? 'id';
