/** Larkhaven's people. Their passwords are no secret: they stand in the README and on the sign-in page of the demo. */
export interface DemoPerson {
  name: string;
  email: string;
  password: string;
  does: string;
  /** How many days ago they were last here; never, if not said. */
  seen?: number;
  assignments: { role: string; branch?: string; days?: number }[];
}

export const DEMO_PEOPLE: DemoPerson[] = [
  {
    name: 'Maud Ellery',
    email: 'maud@larkhaven.example',
    password: 'keys-on-a-ring',
    does: 'Keyholder: prepares the rooms',
    seen: 1,
    assignments: [{ role: 'keyholder' }],
  },
  {
    name: 'Ines Varga',
    email: 'ines@larkhaven.example',
    password: 'late-boat-again',
    does: 'Harbour desk: sailing notices and harbour pages',
    seen: 1,
    assignments: [{ role: 'harbour-desk' }],
  },
  {
    name: 'Tomas Reed',
    email: 'tomas@larkhaven.example',
    password: 'ropes-and-ramps',
    does: 'Harbour desk',
    seen: 1,
    assignments: [{ role: 'harbour-desk' }],
  },
  {
    name: 'Priya Nand',
    email: 'priya@larkhaven.example',
    password: 'reads-it-twice',
    does: 'Second look: reads before visitors do',
    seen: 3,
    assignments: [{ role: 'second-look' }],
  },
  {
    name: 'Oskar Finch',
    email: 'oskar@larkhaven.example',
    password: 'soup-of-the-day',
    does: 'Café manager, only the café’s pages',
    seen: 1,
    assignments: [{ role: 'cafe-manager', branch: 'cafe' }],
  },
  {
    name: 'Lotte Brand',
    email: 'lotte@larkhaven.example',
    password: 'says-what-it-shows',
    does: 'Picture keeper',
    seen: 5,
    assignments: [{ role: 'picture-keeper' }],
  },
  {
    name: 'Juno Park',
    email: 'juno@larkhaven.example',
    password: 'first-line-first',
    does: 'Newsroom: history, jobs, contact',
    seen: 2,
    assignments: [{ role: 'newsroom' }],
  },
  {
    name: 'Sam Ollis',
    email: 'sam@larkhaven.example',
    password: 'until-the-autumn',
    does: 'Seasonal helper, access ends by itself',
    assignments: [{ role: 'seasonal-helper', days: 24 }],
  },
];
