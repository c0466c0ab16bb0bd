import type { PreviewEntry } from '@/core/wire';
import { ItemEditor } from '../editor/ItemEditor';
import type { EditorProps } from '../editor/props';
import { PreviewLinkPanel } from './PreviewLinkPanel';
import { AboutPanel, AddressPanel, NavigationPanel, ResultPanel } from './SettingsPanels';
import { VisitorsPanel, type Visitors } from './VisitorsPanel';

export interface PageEditorProps extends EditorProps {
  address: string;
  /** Whether it is the first page of the website. */
  top: boolean;
  site: string;
  /** Left out for who may not change it. */
  visitors: Visitors | null;
  links: PreviewEntry[];
  /** The layouts they may give the page. */
  layoutIds: string[];
}

/** The edit screen of a page. */
export function PageEditor({ address, top, site, visitors, links, layoutIds, ...props }: PageEditorProps) {
  const { calendar, now, item } = props;
  return (
    <ItemEditor
      {...props}
      previewHref={`/room/pages/${item.id}/preview`}
      panels={({ draft, ...parts }) => ({
        address: <AddressPanel top={top} address={address} {...parts} />,
        navigation: <NavigationPanel {...parts} />,
        result: <ResultPanel address={address} site={site} {...parts} />,
        about: <AboutPanel layoutIds={layoutIds} {...parts} />,
        visitors: visitors && <VisitorsPanel page={item.id} visitors={visitors} />,
        link: (
          <PreviewLinkPanel initial={links} page={item.id} calendar={calendar} now={now} before={() => draft.save()} />
        ),
      })}
    />
  );
}
