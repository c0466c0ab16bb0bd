import { useState } from 'react';
import type { OpenWish } from '@/core/wire';
import { sayTime, type Calendar } from '@/core/words';
import { Labelled, ProblemNote, Said, TRIAL } from '../kit/parts';
import { useKept } from '../kit/useKept';
import { useSend } from '../kit/useSend';

/** How many stand there at once. */
const MOST = 6;

/** Changes that were asked for: answered and settled where they are read, or done on their pages. */
export function AskedOfYou({
  wishes,
  calendar,
  now,
}: {
  wishes: readonly OpenWish[];
  calendar: Calendar;
  now: string;
}) {
  const { act, busy, problem, faultOf } = useSend();
  const [answering, setAnswering] = useState<number | null>(null);
  const about = wishes.find(({ id }) => id === answering);
  // The same words as among its notes.
  const [text, setText, forget] = useKept(`answer to note ${about?.item ?? ''} ${answering ?? ''}`);
  const [answers, setAnswers] = useState<ReadonlyMap<number, string>>(new Map());
  const [settled, setSettled] = useState<ReadonlySet<number>>(new Set());
  const [said, setSaid] = useState<string | null>(null);
  const send = async ({ id, item }: OpenWish) => {
    const sent = await act('POST', `/api/items/${item}/notes`, { text, answers: id });
    if (!sent?.ok) return;
    if (sent.value.trial === true) return setSaid(TRIAL);
    setAnswers(new Map(answers).set(id, text.trim()));
    forget();
    setAnswering(null);
    setSaid('Answered. It stands on their Today, and among the notes.');
  };
  const settle = async ({ id, item }: OpenWish, isSettled: boolean) => {
    const sent = await act('POST', `/api/items/${item}/notes`, { settle: id, settled: isSettled });
    if (!sent?.ok) return;
    if (sent.value.trial === true) return setSaid(TRIAL);
    const next = new Set(settled);
    if (isSettled) next.add(id);
    else next.delete(id);
    setSettled(next);
    setSaid(isSettled ? 'Settled.' : 'Open again.');
  };
  return (
    <>
      <ProblemNote problem={faultOf('text') ? null : problem} />
      <Said words={said} />
      <ul className="divide-y divide-line">
        {wishes.slice(0, MOST).map((wish) => {
          const mine = answers.get(wish.id);
          const answer = mine === undefined ? wish.answer : { by: 'You', text: mine };
          const isSettled = settled.has(wish.id);
          return (
            <li key={wish.id} className="py-2">
              <a className="link clip" href={wish.href}>
                {wish.title}
              </a>
              <p className={`clip ${isSettled ? 'text-ink-2 line-through' : ''}`} dir="auto">
                {wish.text}
              </p>
              <p className="clip text-sm text-ink-2">
                {wish.mine ? 'Your wish' : wish.by}, {sayTime(new Date(wish.at), calendar, new Date(now))}
                {answer && ` · ${answer.by}: “${answer.text}”`}
              </p>
              {wish.mayAnswer && (
                <div className="flex flex-wrap gap-x-4 text-sm">
                  {!isSettled && (
                    <button
                      type="button"
                      className="link min-h-[28px] font-semibold"
                      aria-expanded={answering === wish.id}
                      onClick={() => setAnswering(answering === wish.id ? null : wish.id)}
                    >
                      Answer
                      <span className="sr-only">: {wish.text}</span>
                    </button>
                  )}
                  <button
                    type="button"
                    className="link min-h-[28px]"
                    disabled={busy}
                    onClick={() => void settle(wish, !isSettled)}
                  >
                    {isSettled ? 'Open it again' : 'Settled'}
                    <span className="sr-only">: {wish.text}</span>
                  </button>
                </div>
              )}
              {answering === wish.id && !isSettled && (
                <form
                  className="mt-1 grid max-w-xl gap-2"
                  onSubmit={(event) => {
                    event.preventDefault();
                    void send(wish);
                  }}
                >
                  <Labelled label="Your answer" fault={faultOf('text')}>
                    {(ids) => (
                      <textarea
                        {...ids}
                        className="field"
                        dir="auto"
                        rows={2}
                        maxLength={1000}
                        autoFocus
                        value={text}
                        onChange={(event) => setText(event.target.value)}
                      />
                    )}
                  </Labelled>
                  <button type="submit" className="btn btn-main btn-small justify-self-start" disabled={busy}>
                    Send the answer
                  </button>
                </form>
              )}
            </li>
          );
        })}
      </ul>
      {wishes.length > MOST && <p className="text-sm text-ink-2">and {wishes.length - MOST} more</p>}
    </>
  );
}
