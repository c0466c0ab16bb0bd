CREATE TABLE "missed_searches" (
	"site_id" integer NOT NULL,
	"words" text NOT NULL,
	"asked" text NOT NULL,
	"times" integer DEFAULT 1 NOT NULL,
	"asked_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "missed_searches_site_id_words_pk" PRIMARY KEY("site_id","words")
);
--> statement-breakpoint
CREATE TABLE "own_rooms" (
	"site_id" integer NOT NULL,
	"person_id" integer PRIMARY KEY NOT NULL,
	"today" jsonb,
	"past" jsonb DEFAULT '[]'::jsonb NOT NULL,
	"menu" jsonb,
	"preferences" jsonb,
	"updated_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
ALTER TABLE "items" ADD COLUMN "findings" jsonb;--> statement-breakpoint
ALTER TABLE "missed_searches" ADD CONSTRAINT "missed_searches_site_id_sites_id_fk" FOREIGN KEY ("site_id") REFERENCES "public"."sites"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "own_rooms" ADD CONSTRAINT "own_rooms_site_id_sites_id_fk" FOREIGN KEY ("site_id") REFERENCES "public"."sites"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "own_rooms" ADD CONSTRAINT "own_rooms_site_id_person_id_people_site_id_id_fk" FOREIGN KEY ("site_id","person_id") REFERENCES "public"."people"("site_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "missed_searches_site_id_asked_at_index" ON "missed_searches" USING btree ("site_id","asked_at");