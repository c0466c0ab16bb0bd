import { useState, useRef } from 'react';
import { type Every, EVERY, EVERY_WORDS } from '@/core/duties';
import type { Duty } from '@/core/wire';
import { ProblemNote, Labelled } from '../kit/parts';
import { useSend } from '../kit/useSend';
import { WhenField } from '../kit/when/WhenField';

const MOST = 200;
/** Gives a duty, changes one or hands it over. */
export function DutyForm({
  old,
  people,
  me,
  onDone,
  onClose,
  onRemove,
}: {
  old?: Duty;
  /** Whom it can be given to. */
  people: { id: string; name: string }[];
  me: string;
  onDone: (duty: Duty, trial: boolean) => void;
  onClose: () => void;
  onRemove?: () => void;
}) {
  const { act, busy, problem, faultOf } = useSend();
  const [text, setText] = useState(old?.text ?? '');
  const [whose, setWhose] = useState(old?.whose.id ?? me);
  const [due, setDue] = useState(old?.due ?? '');
  const [every, setEvery] = useState<Every | ''>(old?.every ?? '');
  const [missing, setMissing] = useState(false);
  const area = useRef<HTMLTextAreaElement>(null);
  const faults = {
    text: faultOf('text') ?? faultOf('duty.text'),
    whose: faultOf('whose'),
    due: faultOf('due') ?? faultOf('duty.due'),
  };
  const isTold = Object.values(faults).some((fault) => fault !== undefined);
  const give = async () => {
    if (text.trim() === '') {
      setMissing(true);
      area.current?.focus();
      return;
    }
    const duty = { text, whose, due: due || null, every: every || null };
    const sent = await (old
      ? act('PUT', `/api/duties/${old.id}`, { duty, version: old.version })
      : act('POST', '/api/duties', duty));
    if (sent?.ok) onDone(sent.value.duty, sent.value.trial === true);
  };
  // Whoever can no longer come in is still named where it is theirs.
  const choices = old && !people.some(({ id }) => id === old.whose.id) ? [old.whose, ...people] : people;
  return (
    <form
      className="card mb-4 grid gap-4 bg-paper"
      aria-label={old ? 'Change this duty' : 'New duty'}
      onSubmit={(event) => {
        event.preventDefault();
        void give();
      }}
    >
      <ProblemNote problem={isTold ? null : problem} />
      <Labelled
        label="What has to be done?"
        fault={missing && text.trim() === '' ? 'Say what has to be done.' : faults.text}
        hint={`${MOST - [...text].length} characters left.`}
      >
        {(ids) => (
          <textarea
            {...ids}
            ref={area}
            autoFocus
            rows={2}
            maxLength={MOST}
            className="field"
            value={text}
            onChange={(event) => setText(event.target.value)}
            placeholder="Read the fares against the printed list"
          />
        )}
      </Labelled>
      <div className="grid gap-4 md:grid-cols-3">
        <Labelled label="Whose turn is it?" fault={faults.whose}>
          {(ids) => (
            <select {...ids} className="field" value={whose} onChange={(event) => setWhose(event.target.value)}>
              {choices.map(({ id, name }) => (
                <option key={id} value={id}>
                  {id === me ? `${name} (you)` : name}
                </option>
              ))}
            </select>
          )}
        </Labelled>
        <Labelled
          label="Until when?"
          fault={faults.due}
          hint={due ? 'That day is still in time.' : 'Left empty: some time.'}
        >
          {(ids) => <WhenField {...ids} kind="day" value={due} onChange={setDue} />}
        </Labelled>
        <Labelled label="Does it come again?">
          {(ids) => (
            <select
              {...ids}
              className="field"
              value={every}
              onChange={(event) => setEvery(EVERY.find((one) => one === event.target.value) ?? '')}
            >
              <option value="">No, it is done once</option>
              {EVERY.map((one) => (
                <option key={one} value={one}>
                  {`Yes, ${EVERY_WORDS[one]}`}
                </option>
              ))}
            </select>
          )}
        </Labelled>
      </div>
      <div className="flex flex-wrap items-center gap-2">
        <button type="submit" className="btn btn-main" disabled={busy}>
          {old ? (whose === old.whose.id ? 'Change it' : 'Hand it over') : 'Give it'}
        </button>
        <button type="button" className="btn" onClick={onClose}>
          Cancel
        </button>
        {onRemove && (
          <button type="button" className="btn btn-quiet ml-auto text-brick" onClick={onRemove}>
            Take it away
          </button>
        )}
      </div>
    </form>
  );
}
