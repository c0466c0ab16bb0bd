ALTER TABLE "drafts" DROP COLUMN "allowance";--> statement-breakpoint
ALTER TABLE "drafts" ADD COLUMN "bases" jsonb DEFAULT '[]'::jsonb NOT NULL;
