import type { Calendar } from '@/core/words';
import type { ReactNode } from 'react';
import type { Field, Layout, Layouts, PageContent } from '@/core/content';
import type { Tool } from '@/core/inventory';
import type { TextTools } from '@/core/room';
import type { Note, Remark } from '@/core/wire';
import type { About } from './about';
import type { Elements } from './elements';
import type { FieldContext } from './inputs/input';
import type { PictureChoice } from './PictureChooser';
import type { PlannedRow } from './SchedulePanel';
import type { FieldFault } from './useDraft';
import type { ItemDraft } from './useItem';
import type { VersionRow } from './VersionsPanel';

/** An item as its edit screen is given it. */
export interface EditedItem {
  id: string;
  down: boolean;
  /** With what is not right yet as it was typed. */ content: PageContent;
  faults: FieldFault[];
  /** Where visitors see it; null where they do not see it by itself. */
  address: string | null;
  draft: {
    version: number;
    updatedAt: string;
    updatedBy: string;
    updatedById: string | null;
    sentBackWord: string | null;
  } | null;
  waiting: {
    id: number;
    sentBy: string;
    sentById: string;
    sentAt: string;
    note: string;
    askedOf: string | null;
  } | null;
  versions: VersionRow[];
  planned: PlannedRow[];
}

/** What the screen of every kind of item is given. */
export interface EditorProps {
  item: EditedItem;
  about: About;
  /** The forms it can have. */
  layouts: readonly Layout[];
  settings: readonly Field[];
  crumbs: string[];
  me: { id: string };
  /** What of the screen is there for them, by the ids of the inventory and in its order. */
  controls: string[];
  may: { edit: boolean; retire: boolean };
  /** Why it cannot be changed, where it cannot. */
  readOnlyWhy: string | null;
  /** Who may give the second look. */
  reviewers: { id: string; name: string }[];
  noteRequired: boolean;
  remarks: { review: number; remarks: Remark[] } | null;
  notes: Note[];
  people: { id: string; name: string }[];
  /** The fields they may change; null for all. */
  theirFields: string[] | null;
  /** How the screen was prepared for them, by layout: its elements, and in which order its blocks stand. */
  screens: Record<string, { elements: Elements; main: string[]; side: string[] }>;
  /** The panel that a field of a layout is filled in in, by field. */
  fieldPanels: Record<string, string>;
  /** What they write with, by layout and field; nothing where they may not write. */
  toolbars: Record<string, Record<string, TextTools>>;
  allTools: Tool[];
  pictures: PictureChoice[];
  /** Those the item has or once had, by their ids. */
  ownPictures: string[];
  calendar: Calendar;
  now: string;
  /** Whether a room is only tried: nothing is kept. */
  isTrial: boolean;
}

/** What panels of a kind of item beside its fields have to work with. */
export interface PanelParts {
  page: string;
  layouts: Layouts;
  draft: ItemDraft;
  content: PageContent;
  change: (part: PageContent) => void;
  mayChange: (field: string) => boolean;
  context: FieldContext;
  faultOf: (field: string) => string | undefined;
}

/** What a kind of item adds to it. */
export interface KindProps {
  /** Null where it cannot be previewed. */
  previewHref: string | null;
  /** Panels of its own, by the last part of their ids in the inventory, which says where they stand. */
  panels?: (parts: PanelParts) => Record<string, ReactNode>;
}
