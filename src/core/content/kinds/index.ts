import { choice, person, picture, yes } from './chosen';
import type { FieldKind } from './kind';
import { link } from './link';
import { entryList } from './list';
import { number } from './number';
import { telephone } from './telephone';
import { short, long } from './text';
import { pieces, rich } from './texts';
import { day, moment } from './when';

/** All kinds of fields there are, by the name a layout calls them. A further one is a file here and a line. */
export const FIELD_KINDS = {
  short,
  long,
  rich,
  picture,
  choice,
  day,
  moment,
  number,
  yes,
  link,
  person,
  list: entryList,
  pieces,
  telephone,
} satisfies Record<string, FieldKind<{ kind: string }>>;
