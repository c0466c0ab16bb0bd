import { Problem } from './problems';

/**
 * Requests of one kind: so many are answered at once, so many wait, and whoever comes then is told to come again. Each
 * kind has a share of its own, so that what one kind is asked too often keeps none of the others waiting.
 */
class Lane {
  private running = 0;
  private readonly waiting: (() => void)[] = [];

  constructor(
    private readonly atOnce: number,
    private readonly mostWaiting: number,
  ) {}

  /** Runs work when it is its turn. Throws a Problem where too many wait. */
  async run<T>(work: () => Promise<T>): Promise<T> {
    if (this.running >= this.atOnce) {
      if (this.waiting.length >= this.mostWaiting) throw new Problem('busy');
      await new Promise<void>((turn) => this.waiting.push(turn));
    } else this.running++;
    try {
      return await work();
    } finally {
      // The place goes to the next one as it is.
      const next = this.waiting.shift();
      if (next) next();
      else this.running--;
    }
  }
}

/**
 * Together they ask for fewer connections at once than there are (`MOST_CONNECTIONS`). Signing in waits on purpose after
 * wrong tries, and holds none meanwhile.
 */
const LANES = { website: new Lane(8, 600), office: new Lane(12, 300), signIn: new Lane(60, 200) };

/** The share a request belongs to, by the path it asks for. */
export const laneOf = (pathname: string): Lane =>
  /^\/api\/(sign-in|set-up)\b/.test(pathname)
    ? LANES.signIn
    : /^\/(room|workshop|api)(\/|$)/.test(pathname)
      ? LANES.office
      : LANES.website;
