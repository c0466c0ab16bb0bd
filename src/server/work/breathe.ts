import { setImmediate } from 'node:timers/promises';

/**
 * Lets others come first: between the steps of work that takes its time with a long text, so that it is in nobody's way
 * for longer than one of them.
 */
export const breathe = (): Promise<void> => setImmediate();
