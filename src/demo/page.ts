import type { Document, PageContent } from '@/core/content';
import type { PICTURES } from './pictures';

/** A page of the demo, with those below it. */
export interface DemoPage {
  key: string;
  slug: string;
  layout: 'plain' | 'banner' | 'harbour' | 'event' | 'pieces';
  title: string;
  shortName?: string;
  summary: string;
  banner?: keyof typeof PICTURES;
  inNavigation?: false;
  /** Only whoever has an account may visit it. */
  members?: true;
  body?: Document;
  /** What its layout has beside title, summary, banner and text. */
  fields?: PageContent;
  below?: DemoPage[];
}
