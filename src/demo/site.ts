/** The website of the demo. */
export const DEMO_SITE = { name: 'Larkhaven Ferries', timeZone: 'Europe/London' };
