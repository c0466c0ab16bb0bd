import { spawnSync } from 'node:child_process';
import { describe, expect, it } from 'vitest';
import { askable, makeFinder, questionOf, SYNONYMS } from '@/core/ask';
import { demoPlaces } from '@/demo/places';
import { demoPlan } from '@/demo/plan';
import { person } from './plans';
import { QUESTIONS } from './questions';
import { inventory } from '../inventory';

const plan = demoPlan(inventory, (key) => key);
const entries = (role: string) =>
  askable({ inventory, plan, person: person('somebody', { role }), places: demoPlaces(), nowMs: 0 });
const find = makeFinder(entries('keyholder'));
const rankOf = (asked: string, wanted: string, finder = find) =>
  finder(asked, 10).findIndex((entry) => wanted.split('|').includes(`${entry.kind} ${entry.id}`));

describe('“Where do I…?”', () => {
  it(`finds what plain questions mean: ${QUESTIONS.length} of them, 95 in 100 among the first three, 85 in 100 first`, () => {
    const ranks = QUESTIONS.map(([asked, wanted]) => [asked, wanted, rankOf(asked, wanted)] as const);
    const share = (of: (rank: number) => boolean) => ranks.filter(([, , rank]) => of(rank)).length / ranks.length;
    const missed = ranks
      .filter(([, , rank]) => rank < 0 || rank > 2)
      .map(
        ([asked, wanted, rank]) =>
          `${asked} → ${wanted} (${rank}): ${find(asked)
            .slice(0, 3)
            .map((entry) => entry.id)
            .join(', ')}`,
      );
    expect(QUESTIONS.length).toBeGreaterThanOrEqual(150);
    expect(
      share((rank) => rank >= 0 && rank < 3),
      missed.join('\n'),
    ).toBeGreaterThanOrEqual(0.95);
    expect(
      share((rank) => rank === 0),
      ranks
        .filter(([, , rank]) => rank !== 0)
        .map(([asked, wanted]) => `${asked} → ${wanted}: ${find(asked)[0]?.id}`)
        .join('\n'),
    ).toBeGreaterThanOrEqual(0.85);
  });
  it('knows all there is, whether it is ticked or not, and says of what one may not do why', () => {
    const desk = entries('harbour-desk');
    expect(
      desk
        .filter((entry) => entry.kind === 'task')
        .map((entry) => entry.id)
        .sort(),
    ).toEqual([...inventory.tasks.keys()].sort());
    expect(desk.find((entry) => entry.id === 'frame.leave')).toMatchObject({ may: true });
    expect(desk.find((entry) => entry.id === 'pages.publish')).toMatchObject({
      may: false,
      why: expect.stringMatching(/\.$/) as string,
    });
    for (const entry of desk) expect(entry.may, `${entry.kind} ${entry.id}`).toBe(entry.why === null);
    // In the words of one's own room.
    expect(desk.find((entry) => entry.kind === 'door' && entry.id === 'notices')?.name).toBe('Sailing notices');
    expect(makeFinder(desk)('late boat')[0]).toMatchObject({
      id: 'notices.post',
      name: 'Post a sailing notice',
      ticked: true,
    });
    expect(makeFinder(entries('picture-keeper'))('late boat')[0]).toMatchObject({ id: 'notices.post', may: false });
  });
  it('forgives a wrong letter, the order of words and their endings, and finds while the last word is being typed', () => {
    for (const asked of [
      'anouncement',
      'spelling misteaks',
      'delets a page',
      'page delete',
      'deleting pages',
      'remov a page',
    ])
      expect(
        rankOf(
          asked,
          asked.startsWith('an')
            ? 'task notices.post'
            : asked.startsWith('sp')
              ? 'task pages.words'
              : 'task pages.retire',
        ),
        asked,
      ).toBeLessThan(3);
    expect(rankOf('log ou', 'task frame.leave')).toBeLessThan(3);
    expect(find('')).toEqual([]);
    for (const asked of ['xylophone quartz', 'submarine', 'kangaroo']) expect(find(asked), asked).toEqual([]);
  });
  it('learns: what was chosen for a question comes first the next time it is asked, in whichever order', () => {
    const learned = makeFinder(entries('keyholder'), { [questionOf('the soup of the day')]: 'task pages.words' });
    expect(learned('soup of this day')[0]?.id).toBe('pages.words');
    expect(find('the soup of the day')[0]?.id).not.toBe('pages.words');
  });
  it('answers on the command line, without database or server: a line of JSON for each question', () => {
    const run = (args: string[], input: string) =>
      spawnSync(process.execPath, ['--import', 'tsx', 'scripts/cli.ts', 'where', ...args], {
        input,
        encoding: 'utf8',
        env: { PATH: process.env['PATH'] },
      });
    const done = run(['--role', 'harbour-desk'], 'log out\n\nlate boat\n');
    expect([done.status, done.stderr]).toEqual([0, '']);
    const answers = done.stdout
      .trim()
      .split('\n')
      .map((line) => JSON.parse(line) as { found: { id: string; kind: string; may: boolean }[] });
    expect(answers.map((answer) => answer.found[0])).toEqual([
      { id: 'frame.leave', kind: 'task', may: true },
      undefined,
      { id: 'notices.post', kind: 'task', may: true },
    ]);
    const bad = run(['--role', 'pirate'], 'log out');
    expect([bad.status !== 0, bad.stdout, bad.stderr.split('\n').filter(Boolean).length]).toEqual([true, '', 1]);
  });
  it('has at least 400 words for the same things, none of them twice in a group', () => {
    expect(new Set(SYNONYMS.flat()).size).toBeGreaterThanOrEqual(400);
    for (const group of SYNONYMS) expect(new Set(group).size, group.join()).toBe(group.length);
  });
});
