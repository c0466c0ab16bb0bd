import type { Every } from '@/core/duties';
import { dayKey } from '@/core/words';

const DAY_MS = 86_400_000;

/** What Larkhaven's people look after, by first names; days count from today. */
export const demoDuties = (
  at: Date,
): { text: string; whose: string; by: string; due: string | null; every: Every | null }[] => {
  const inDays = (days: number) => dayKey(new Date(at.getTime() + days * DAY_MS), 'Europe/London');
  return [
    { text: 'Say who answers the mails of the contact page', whose: 'Maud', by: 'Maud', due: inDays(-2), every: null },
    { text: 'Send the picture of the new ramp as a file', whose: 'Ines', by: 'Maud', due: inDays(3), every: null },
    { text: 'Set the café’s winter hours', whose: 'Oskar', by: 'Maud', due: inDays(5), every: 'year' },
    { text: 'Look through the links that lead nowhere', whose: 'Juno', by: 'Maud', due: inDays(12), every: 'month' },
    { text: 'Read the fares against the printed list', whose: 'Priya', by: 'Maud', due: inDays(40), every: 'year' },
    {
      text: 'Find a word for “seasonal helper” that fits in winter',
      whose: 'Juno',
      by: 'Priya',
      due: null,
      every: null,
    },
  ];
};
