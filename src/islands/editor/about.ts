import { createContext, useContext } from 'react';

/** What an edit screen is about: a kind of item, in words, and its screen in the inventory. */
export interface About {
  /** "page" */
  one: string;
  /** `pages.edit` */
  screen: string;
}

export const AboutContext = createContext<About>({ one: 'page', screen: 'pages.edit' });

/** The kind of item that is edited; parts of its screen and their ids in the inventory, where tours find them. */
export function useAbout() {
  const { one, screen } = useContext(AboutContext);
  return { one, anchor: (part: string) => `${screen}.${part}`, partOf: (id: string) => id.slice(screen.length + 1) };
}
