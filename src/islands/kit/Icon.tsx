import {
  Archive, ArrowLeft, ArrowRight, Bold, Check, ChevronDown, ChevronRight, ChevronUp, CircleDashed, CircleHelp, Clock, Code, Copy, DoorOpen, Ellipsis, ExternalLink, Eye, FilePen, FileText, Files, GripVertical, Glasses, Heading, Highlighter, Hourglass, House, Image, Images, Inbox,
  Italic, LayoutGrid, Link, List, ListOrdered, ListTree, Lock, LogOut, Maximize, Megaphone, MessageSquare, Minus, Monitor, Plus, Printer, Quote, Redo2, ScrollText, Search, Signpost, Smartphone, Table, Tablet, TextSearch, TriangleAlert, Undo2, User, Users, Wrench, X, type LucideProps,
} from 'lucide-react';

const ICONS = {
  archive: Archive, back: ArrowLeft, next: ArrowRight, bold: Bold, check: Check, down: ChevronDown, right: ChevronRight, up: ChevronUp, help: CircleHelp, clock: Clock, code: Code, copy: Copy, door: DoorOpen, more: Ellipsis, out: ExternalLink, eye: Eye, draft: FilePen,
  file: FileText, files: Files, grip: GripVertical, half: CircleDashed, inbox: Inbox, glasses: Glasses, heading: Heading, house: House, images: Images, picture: Image, highlight: Highlighter, alert: Hourglass, italic: Italic, plan: LayoutGrid, link: Link, list: List, numbers: ListOrdered, tree: ListTree, lock: Lock, leave: LogOut,
  megaphone: Megaphone, minus: Minus, full: Maximize, remark: MessageSquare, screen: Monitor, tablet: Tablet, phone: Smartphone, plus: Plus, print: Printer, quote: Quote, redo: Redo2, scroll: ScrollText, search: Search, way: Signpost, table: Table, find: TextSearch, warn: TriangleAlert, undo: Undo2, user: User, users: Users, wrench: Wrench, close: X,
} as const;
export type IconName = keyof typeof ICONS;

/** A picture beside a word, never instead of it; screen readers pass it over. */
export function Icon({ name, size = 18, ...rest }: { name: IconName; size?: number } & Omit<LucideProps, 'name' | 'ref'>) {
  const Drawn = ICONS[name];
  return <Drawn size={size} strokeWidth={1.75} aria-hidden="true" className="shrink-0" {...rest} />;
}

export const isIcon = (name: string): name is IconName => name in ICONS;
export const sectionIcon = (name: string): IconName => (isIcon(name) ? name : 'file');
