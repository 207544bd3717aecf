import { figure } from '../../../parts/figures.ts';
import type { SendingView } from '../../../../contract/sendings.ts';
import { inSentence } from '../../../../core/conditions/index.ts';
import type { SourceField } from '../../../../core/values/index.ts';
import { Time } from '../../../parts/Time.tsx';
import { useAskable } from '../../../parts/conditions/knowledge.ts';
import { countsInWords } from './countsInWords.ts';

const STATES: Record<SendingView['state'], string> = {
  running: 'under way',
  paused: 'paused',
  done: 'done',
  cancelled: 'cancelled',
};

interface SendingProps {
  sending: SendingView;
  fields: SourceField[];
  onSteer: (act: 'pause' | 'resume' | 'cancel') => void;
}

/** One sending of what was there: how far it has come, what became of it, and how it is steered. */
export function Sending({ sending, fields, onSteer }: SendingProps) {
  const { state, pile, when, total, done, perMinute, startedAt, by } = sending;
  const { all } = useAskable(fields);
  return (
    <li className="box p-3 flex flex-col gap-1">
      <div className="flex flex-wrap items-center gap-3">
        <strong>{STATES[state]}</strong>
        <progress
          className="progress progress-primary w-40"
          value={done}
          max={Math.max(total, done, 1)}
          aria-label="How far it has come"
        />
        <span>
          {figure(done)} of {figure(total)}
        </span>
        <span className="text-muted">
          {figure(perMinute)} a minute, begun <Time at={startedAt} /> by {by}
        </span>
        <span className="ml-auto flex gap-1">
          {state === 'running' && (
            <button className="btn btn-xs" onClick={() => onSteer('pause')}>
              Pause
            </button>
          )}
          {state === 'paused' && (
            <button className="btn btn-xs" onClick={() => onSteer('resume')}>
              Resume
            </button>
          )}
          {(state === 'running' || state === 'paused') && (
            <button className="btn btn-xs" onClick={() => onSteer('cancel')}>
              Cancel it
            </button>
          )}
        </span>
      </div>
      {(pile === 'held' || when) && (
        <p>
          {pile === 'held' ? 'What was held' : 'What was received'}
          {when && `, where ${inSentence(when, all)}`}.
        </p>
      )}
      <p className="text-muted">{countsInWords(sending)}</p>
    </li>
  );
}
