import type { Calendar } from '@/core/words';
import { useState } from 'react';
import type { Remark } from '@/core/wire';
import { Safe } from '../kit/parts';
import { useAbout } from './about';
import { RemarkThreads } from '../review/Remarks';

/** The remarks of the last second look, beside the text they are about. */
export function RemarksPanel({
  review,
  initial,
  calendar,
  now,
}: {
  review: number;
  initial: Remark[];
  calendar: Calendar;
  now: string;
}) {
  const { anchor } = useAbout();
  const [remarks, setRemarks] = useState(initial);
  return (
    <section className="card" aria-label="Remarks" data-anchor={anchor('remarks')}>
      <h2 className="mb-2 text-base">Remarks on your text</h2>
      <Safe>
        <RemarkThreads review={review} remarks={remarks} onChange={setRemarks} calendar={calendar} now={now} />
      </Safe>
    </section>
  );
}
