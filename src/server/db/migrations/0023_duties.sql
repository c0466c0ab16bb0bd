CREATE TABLE "duties" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "duties_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"site_id" integer NOT NULL,
	"text" text NOT NULL,
	"whose" integer NOT NULL,
	"made_by" integer NOT NULL,
	"due" text,
	"first" text,
	"every" text,
	"done_at" timestamp with time zone,
	"done_by" integer,
	"done_for" text,
	"version" integer DEFAULT 1 NOT NULL,
	"made_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
ALTER TABLE "items" ADD COLUMN "translation_of" integer;--> statement-breakpoint
ALTER TABLE "duties" ADD CONSTRAINT "duties_site_id_sites_id_fk" FOREIGN KEY ("site_id") REFERENCES "public"."sites"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "duties" ADD CONSTRAINT "duties_site_id_whose_people_site_id_id_fk" FOREIGN KEY ("site_id","whose") REFERENCES "public"."people"("site_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "duties" ADD CONSTRAINT "duties_site_id_made_by_people_site_id_id_fk" FOREIGN KEY ("site_id","made_by") REFERENCES "public"."people"("site_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "duties" ADD CONSTRAINT "duties_site_id_done_by_people_site_id_id_fk" FOREIGN KEY ("site_id","done_by") REFERENCES "public"."people"("site_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "duties_site_id_whose_index" ON "duties" USING btree ("site_id","whose");--> statement-breakpoint
ALTER TABLE "items" ADD CONSTRAINT "items_site_id_translation_of_items_site_id_id_fk" FOREIGN KEY ("site_id","translation_of") REFERENCES "public"."items"("site_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "items_translation" ON "items" USING btree ("translation_of","language") WHERE deleted_at is null;