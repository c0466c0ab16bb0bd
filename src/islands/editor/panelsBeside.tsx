import type { ComponentProps, ReactNode } from 'react';
import { textOf, type Field } from '@/core/content';
import type { Note } from '@/core/wire';
import { ChecksPanel } from './ChecksPanel';
import { NotesPanel } from './NotesPanel';
import { PicturePanel } from './panels';
import type { PictureChoice } from './PictureChooser';
import type { EditorProps, KindProps, PanelParts } from './props';
import { RemarksPanel } from './RemarksPanel';
import { SchedulePanel } from './SchedulePanel';
import { SendPanel } from './SendPanel';
import { VersionsPanel } from './VersionsPanel';

type Sending = Pick<ComponentProps<typeof SendPanel>, 'note' | 'onNote' | 'askedOf' | 'onAskedOf' | 'faultOf'>;
type WriteOn = NonNullable<ComponentProps<typeof VersionsPanel>['onWriteOn']>;

/** What can stand beside the fields of an item, by the part of the screen it is. */
export function panelsBeside({
  props: { item, may, people, reviewers, noteRequired, remarks, panels, calendar, now },
  parts,
  send,
  picture,
  findings,
  notes,
  onWriteOn,
}: {
  props: EditorProps & KindProps;
  parts: PanelParts;
  send: Sending;
  /** The field for a picture, where the layout has one, and what it chooses from. */
  picture: { field: Field; from: PictureChoice[] } | undefined;
  findings: ComponentProps<typeof ChecksPanel>['findings'];
  notes: Note[];
  onWriteOn: WriteOn;
}): Record<string, ReactNode> {
  const clock = { calendar, now };
  return {
    note: <SendPanel {...send} noteRequired={noteRequired} reviewers={reviewers} people={people} />,
    remarks: remarks && <RemarksPanel review={remarks.review} initial={remarks.remarks} {...clock} />,
    checks: <ChecksPanel findings={findings} />,
    banner: picture && (
      <PicturePanel
        name={picture.field.name}
        value={textOf(parts.content, picture.field.id) || null}
        pictures={picture.from}
        readOnly={!parts.mayChange(picture.field.id)}
        onChange={(id) => parts.change({ [picture.field.id]: id })}
      />
    ),
    ...panels?.(parts),
    schedule: <SchedulePanel item={item.id} planned={item.planned} mayRetire={may.retire} {...clock} />,
    notes: <NotesPanel key={notes.length} item={item.id} initial={notes} {...clock} />,
    versions: (
      <VersionsPanel item={item.id} versions={item.versions} {...clock} onWriteOn={may.edit ? onWriteOn : undefined} />
    ),
  };
}
