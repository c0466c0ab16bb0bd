import type { Field, Layout } from '../content';
import type { Size } from '../dashboard';

/** How much can go wrong in a place: anybody may / mind what you do / only somebody who can repair it. */
export type CareLevel = 'everyday' | 'care' | 'keyholders';

/**
 * `object.verb`, the field's own notation (common practice, no source). The object decides the section
 * it belongs to; `view` is the verb that only reads.
 */
export type PermissionId = `${string}.${string}`;

export interface Permission {
  id: PermissionId;
  /** Completes "may …": "change pages". */
  name: string;
  care: CareLevel;
  /** Whether the thing it is asked about lies somewhere in the page tree. */
  placed: boolean;
  /** The thing lies on a page but is somebody's own, not its page's author's. */
  ownAuthor?: true;
  /** Nobody may use it on a revision of their own. */
  secondPerson?: true;
  /** The control it is used with, where that takes more than the permission. */
  control?: string;
}

export interface Screen {
  id: string;
  name: string;
  /** Address pattern; `[id]` stands for one segment. */
  path: string;
  /** Left out where being signed in is enough. */
  needs?: PermissionId;
  /** What the `[id]` of the path names, so that the gate can ask about that very thing: a kind of item, or a review. */
  on?: string;
  /** What a list on it can show of each thing, in this order. */
  columns?: readonly { id: string; name: string }[];
}

/** Something on a screen that can be pointed at. Its id is also its anchor (`data-anchor`). */
export interface Control {
  id: string;
  /** Exactly the words that stand on the screen. */
  name: string;
  screen: string;
  description: string;
  /** Further words people use when they look for it. */
  said?: readonly string[];
  /** Shown only to somebody who may do this, or all of these. */
  needs?: PermissionId | readonly PermissionId[];
  /** Shown only when the toolbar has one of these tools. */
  tools?: readonly string[];
  /** The fields of a page it changes, any of them: on pages whose layout has none of them it is not shown. */
  fields?: readonly string[];
  /** Stands beside the fields of an edit screen by itself, and can be put elsewhere or left out. */
  panel?: true;
  /** Only there after something was done or when there is something to show; says what. */
  appears?: string;
}

/** What can be done to an item, as permissions of its type say it: `page.edit`. */
export type ItemVerb = 'view' | 'edit' | 'send' | 'publish' | 'retire';

/**
 * A kind of thing with fields of its own that is drafted, looked at a second time, published and taken down: a page, or
 * something that lies on a page and is somebody's own. Its id is the object of its permissions, which are at least
 * those of `ItemVerb`.
 */
export interface ItemType {
  id: string;
  /** As sentences have it, after "this": "page". */
  one: string;
  /** Of several: "pages". */
  many: string;
  /** The screen it is edited on, with `[id]` in its path. */
  screen: string;
  /** The forms it can have; each has a short `title`. */
  layouts: readonly Layout[];
  /** What it has beside its layout's fields. */
  settings: readonly Field[];
}

/** The groups of a toolbar, in the order they stand, by what they are called. */
export const TOOL_GROUPS = {
  words: 'For words',
  blocks: 'For paragraphs',
  styles: 'To stand out',
  inserts: 'To put in',
  aids: 'To help with writing',
  modes: 'To see the text in other ways',
} as const;

export interface Tool {
  id: string;
  name: string;
  group: keyof typeof TOOL_GROUPS;
  /** Keys that do the same, as they are printed on them. */
  keys?: string;
  description: string;
  care: CareLevel;
  /** The nodes and marks of the document schema that can be made with it. */
  makes: readonly string[];
}

/** What can be set on a widget, beside its heading and its size. */
export type WidgetSetting = 'most' | 'branch' | 'kind' | 'words' | 'links';

export interface Widget {
  id: string;
  name: string;
  description: string;
  /** Left out where being signed in is enough. */
  needs?: PermissionId;
  takes?: readonly WidgetSetting[];
  /** What `kind` chooses among. */
  kinds?: readonly { id: string; name: string }[];
  /** Over how many columns it may go; narrow alone when left out. */
  sizes?: readonly Size[];
  /** What it says when there is nothing to show. */
  empty: string;
  /** How many questions it asks the database; a test counts. */
  queries: number;
}

/**
 * Something that happened and a tour can wait for: a request that was answered, numbers left open (`POST
 * /api/items/[id]/send`), or what is done within a screen.
 */
export type Happening = `${'POST' | 'PUT'} /api/${string}` | 'picture.chosen' | 'link.made';

/** One move of a task, and so one stop of its tour. */
export interface TaskMove {
  control: string;
  /** `press` and `type` wait for the action; `see` only shows. */
  await: 'press' | 'type' | 'see';
  /** One of which must have happened before the tour goes on: a press alone may have been refused. */
  until?: readonly Happening[];
  title: string;
  text: string;
}

/**
 * What a task is about, where that lies somewhere in the page tree: one thing of the kind must carry all the task
 * needs. `onPage` lies on a page and is somebody's own; `item` is that and has a draft.
 */
export type TaskThing =
  'page' | 'newPage' | 'movedPage' | 'retiredPage' | 'onPage' | 'newOnPage' | 'item' | 'newItem' | 'review';

/** A job that can be done in this section, with the moves that do it. */
export interface TaskTemplate {
  id: string;
  name: string;
  purpose: string;
  /** Words people use when they look for it. */
  said: readonly string[];
  needs: readonly PermissionId[];
  tools?: readonly string[];
  thing?: TaskThing;
  /** Where "Start" leads; a screen whose path has no `[id]`. */
  screen: string;
  moves: readonly TaskMove[];
}

export interface Section {
  id: string;
  name: string;
  purpose: string;
  icon: string;
  care: CareLevel;
  /** A door of the Room's menu, the frame around every screen, or part of the Workshop. */
  face: 'door' | 'frame' | 'workshop';
  /** The screen behind the door. */
  home: string;
  permissions: readonly Permission[];
  /** The kinds of items it holds. */
  items?: readonly ItemType[];
  screens: readonly Screen[];
  controls: readonly Control[];
  tools?: readonly Tool[];
  widgets?: readonly Widget[];
  tasks: readonly TaskTemplate[];
}
