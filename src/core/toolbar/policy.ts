/**
 * What may become of a construct when no tool at hand makes it: it stays whole; its words may change and its form stays;
 * or it is free, and only no new one comes. The strictest first.
 */
export const POLICIES = ['whole', 'words', 'free'] as const;
export type ConstructPolicy = (typeof POLICIES)[number];
/** What holds where no rule says otherwise: tables and pictures stay whole, everything else is free. */
export const usualPolicy = (construct: string): ConstructPolicy =>
  construct === 'table' || construct === 'picture' ? 'whole' : 'free';
