import type { Tx } from './client';

class Tried<T> extends Error {
  constructor(readonly value: T) {
    super('what was tried is rolled back');
  }
}

/**
 * Does something, gives what came of it, and takes all of it back: so what is told beforehand is the very same as what
 * happens.
 */
export async function tryOut<T>(tx: Tx, work: (inner: Tx) => Promise<T>): Promise<T> {
  try {
    return await tx.transaction(async (inner) => {
      throw new Tried(await work(inner));
    });
  } catch (error) {
    if (error instanceof Tried) return error.value as T;
    throw error;
  }
}
