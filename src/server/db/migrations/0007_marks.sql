CREATE TABLE "plan_marks" (
	"site_id" integer NOT NULL,
	"revision" integer NOT NULL,
	"touched" jsonb NOT NULL,
	"made_by" integer,
	"made_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "plan_marks_site_id_revision_pk" PRIMARY KEY("site_id","revision")
);
--> statement-breakpoint
CREATE TABLE "plan_presence" (
	"site_id" integer NOT NULL,
	"person_id" integer NOT NULL,
	"role" text,
	"seen_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "plan_presence_site_id_person_id_pk" PRIMARY KEY("site_id","person_id")
);
--> statement-breakpoint
ALTER TABLE "plan_marks" ADD CONSTRAINT "plan_marks_site_id_sites_id_fk" FOREIGN KEY ("site_id") REFERENCES "public"."sites"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "plan_marks" ADD CONSTRAINT "plan_marks_made_by_people_id_fk" FOREIGN KEY ("made_by") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "plan_presence" ADD CONSTRAINT "plan_presence_site_id_sites_id_fk" FOREIGN KEY ("site_id") REFERENCES "public"."sites"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "plan_presence" ADD CONSTRAINT "plan_presence_person_id_people_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;