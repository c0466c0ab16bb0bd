import { createContext, useContext } from 'react';

/** What an edit screen is about: a kind of item, in words, and its screen in the inventory. */
export interface About {
  /** "page" */
  one: string;
  /** `pages.edit` */
  screen: string;
}

export const AboutContext = createContext<About>({ one: 'page', screen: 'pages.edit' });

/** The kind of item that is edited, and where each part of its screen is found by tours: its control's id. */
export function useAbout() {
  const { one, screen } = useContext(AboutContext);
  return { one, anchor: (part: string) => `${screen}.${part}` };
}
