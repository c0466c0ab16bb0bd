CREATE TABLE "questions" (
	"site_id" integer NOT NULL,
	"question" text NOT NULL,
	"chosen" text NOT NULL,
	"asked" text NOT NULL,
	"times" integer DEFAULT 1 NOT NULL,
	"asked_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "questions_site_id_question_chosen_pk" PRIMARY KEY("site_id","question","chosen")
);
--> statement-breakpoint
ALTER TABLE "questions" ADD CONSTRAINT "questions_site_id_sites_id_fk" FOREIGN KEY ("site_id") REFERENCES "public"."sites"("id") ON DELETE no action ON UPDATE no action;