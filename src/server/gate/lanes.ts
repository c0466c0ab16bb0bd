import { Problem } from './problems';
import { readCookie } from './sessions';

/**
 * Requests of one kind: so many are answered at once, of one person fewer, so many wait, and whoever comes then is told
 * to come again. Each kind has a share of its own, so that what one kind is asked too often keeps none of the others
 * waiting.
 */
export class Lane {
  private running = 0;
  private readonly ofOne = new Map<string, number>();
  private readonly waiting: { who: string; turn: () => void }[] = [];

  constructor(
    private readonly most: {
      /** Asked whenever somebody could begin. */ atOnce: () => number;
      ofOne: number;
      waiting: number;
    },
  ) {}

  get isBusy(): boolean {
    return this.running > 0;
  }

  /** Runs work of somebody when it is their turn. Throws a Problem where too many wait. */
  async run<T>(who: string, work: () => Promise<T>): Promise<T> {
    if (this.hasRoomFor(who)) this.count(who, 1);
    else {
      if (this.waiting.length >= this.most.waiting) throw new Problem('busy');
      await new Promise<void>((turn) => this.waiting.push({ who, turn }));
    }
    try {
      return await work();
    } finally {
      this.count(who, -1);
      this.goOn();
    }
  }

  /** Lets in who waits, as far as there is room: the first of those who have not enough running already. */
  goOn(): void {
    for (;;) {
      const at = this.waiting.findIndex(({ who }) => this.hasRoomFor(who));
      const [next] = at < 0 ? [] : this.waiting.splice(at, 1);
      if (!next) return;
      this.count(next.who, 1);
      next.turn();
    }
  }

  private hasRoomFor(who: string): boolean {
    return this.running < this.most.atOnce() && (this.ofOne.get(who) ?? 0) < this.most.ofOne;
  }
  private count(who: string, by: 1 | -1): void {
    this.running += by;
    const now = (this.ofOne.get(who) ?? 0) + by;
    if (now > 0) this.ofOne.set(who, now);
    else this.ofOne.delete(who);
  }
}

/**
 * Together they ask for fewer connections at once than there are (`MOST_CONNECTIONS`). Few run at once, since they take
 * turns in one thread: who is let in waits for all the others. What finds things is kept apart from the pages of the
 * website, and the back office makes way while a visitor waits. Of long bodies few are read at once, and of one person
 * one: all that is done with a text goes by its length. Signing in waits on purpose after wrong tries, and holds no
 * connection meanwhile.
 */
const website = new Lane({ atOnce: () => 8, ofOne: 8, waiting: 600 });
const search = new Lane({ atOnce: () => 2, ofOne: 2, waiting: 200 });
const office = new Lane({ atOnce: () => (website.isBusy ? 2 : 6), ofOne: 3, waiting: 300 });
const longBodies = new Lane({ atOnce: () => 2, ofOne: 1, waiting: 200 });
const signIn = new Lane({ atOnce: () => 60, ofOne: 60, waiting: 200 });

/** From how many bytes on a body is long: about 5,000 words of a text. */
const LONG_BODY = 64_000;
/** Whether a body is long, or does not say how long it is. */
const hasLongBody = ({ method, headers }: Request): boolean =>
  method !== 'GET' && method !== 'HEAD' && !(Number(headers.get('content-length') ?? Infinity) <= LONG_BODY);

/** The share a request belongs to, by the path it asks for and the length of what it brings. */
const laneOf = (request: Request, pathname: string): Lane =>
  /^\/api\/(sign-in|set-up)\b/.test(pathname)
    ? signIn
    : /^\/(room|workshop|api)(\/|$)/.test(pathname)
      ? hasLongBody(request)
        ? longBodies
        : office
      : pathname === '/search'
        ? search
        : website;

/** Answers a request when it is its turn. Throws a Problem where too many wait. */
export async function inTurn<T>(request: Request, pathname: string, answer: () => Promise<T>): Promise<T> {
  const lane = laneOf(request, pathname);
  try {
    return await lane.run(lane === office || lane === longBodies ? (readCookie(request) ?? '') : '', answer);
  } finally {
    if (lane === website && !website.isBusy) office.goOn();
  }
}
