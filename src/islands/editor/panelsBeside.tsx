import type { ComponentProps, ReactNode } from 'react';
import type { Field } from '@/core/content';
import type { Note } from '@/core/wire';
import { ChecksPanel } from './ChecksPanel';
import { NotesPanel } from './NotesPanel';
import { FieldPanel } from './panels';
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
  inPanels,
  findings,
  notes,
  onWriteOn,
}: {
  props: EditorProps & KindProps;
  parts: PanelParts;
  send: Sending;
  /** Fields of the layout that are filled in in a panel, and the pictures there are for them. */
  inPanels: readonly { panel: string; field: Field; pictures: PictureChoice[] }[];
  findings: ComponentProps<typeof ChecksPanel>['findings'];
  notes: Note[];
  onWriteOn: WriteOn;
}): Record<string, ReactNode> {
  const clock = { calendar, now };
  return {
    note: <SendPanel {...send} noteRequired={noteRequired} reviewers={reviewers} people={people} />,
    remarks: remarks && <RemarksPanel review={remarks.review} initial={remarks.remarks} {...clock} />,
    checks: <ChecksPanel findings={findings} />,
    ...Object.fromEntries(
      inPanels.map(({ panel, field, pictures }) => [
        panel.slice(panel.lastIndexOf('.') + 1),
        <FieldPanel
          key={panel}
          panel={panel}
          field={field}
          value={parts.content[field.id]}
          readOnly={!parts.mayChange(field.id)}
          context={{ ...parts.context, pictures }}
          fault={parts.faultOf(field.id)}
          onChange={(value) => parts.change({ [field.id]: value })}
        />,
      ]),
    ),
    ...panels?.(parts),
    schedule: <SchedulePanel item={item.id} planned={item.planned} mayRetire={may.retire} {...clock} />,
    notes: <NotesPanel key={notes.length} item={item.id} initial={notes} {...clock} />,
    versions: (
      <VersionsPanel item={item.id} versions={item.versions} {...clock} onWriteOn={may.edit ? onWriteOn : undefined} />
    ),
  };
}
