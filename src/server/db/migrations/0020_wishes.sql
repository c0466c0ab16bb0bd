ALTER TABLE "notes" ADD COLUMN "wish" jsonb;--> statement-breakpoint
ALTER TABLE "notes" ADD COLUMN "answers" integer;--> statement-breakpoint
ALTER TABLE "notes" ADD CONSTRAINT "notes_of_site" UNIQUE("site_id","id");--> statement-breakpoint
ALTER TABLE "notes" ADD CONSTRAINT "notes_site_id_answers_notes_site_id_id_fk" FOREIGN KEY ("site_id","answers") REFERENCES "public"."notes"("site_id","id") ON DELETE no action ON UPDATE no action;
