import type { TrialView } from '../../../contract/rehearsal.ts';
import type { TargetTrial } from '../../../core/delivery/index.ts';
import { StateMark } from '../../parts/StateMark.tsx';
import { Time } from '../../parts/Time.tsx';

/** What a live rehearsal showed, target by target: meant beside found, and what became of it. */
export function TrialResult({ trial, isLast }: { trial: TrialView; isLast: boolean }) {
  return (
    <div className="flex flex-col gap-4">
      {isLast && (
        <p className="text-muted">
          The last one, {trial.version === null ? 'of a draft' : `of version ${trial.version}`},{' '}
          <Time at={trial.startedAt} />, by {trial.by}:
        </p>
      )}
      {trial.targets.map((target) => (
        <TargetResult key={target.targetId} target={target} />
      ))}
    </div>
  );
}

const CLEANED: Record<TargetTrial['cleaned'], string> = {
  'nothing there': 'Nothing is left there.',
  removed: 'The test person was deleted there again.',
  'left there': 'The test person stays there.',
  'not yet': '',
};

function TargetResult({ target }: { target: TargetTrial }) {
  const { connectionName, state, said, nextStep, rows, cleaned, cleanedSaid } = target;
  return (
    <section className="border-l-2 border-base-300 pl-3 flex flex-col gap-1">
      <h3 className="font-semibold flex gap-2">
        {connectionName} <StateMark of="rehearsal" state={state} />
      </h3>
      {said !== '' && (
        <p>
          {said} {nextStep}
        </p>
      )}
      {rows.length > 0 && (
        <table className="rows w-full">
          <thead>
            <tr>
              <th scope="col">Field</th>
              <th scope="col">Meant</th>
              <th scope="col">Found there</th>
            </tr>
          </thead>
          <tbody>
            {rows.map(({ what, meant, found, same }) => (
              <tr key={what + meant}>
                <td>{what}</td>
                <td>{meant}</td>
                <td className={same ? '' : 'text-error font-semibold'}>
                  {found || 'nothing'}
                  {!same && ' (differs)'}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {state !== 'waiting' && state !== 'left out' && (
        <p className={cleaned === 'left there' ? 'text-warning' : 'text-muted'}>
          {[CLEANED[cleaned], cleanedSaid].filter((text) => text !== '').join(' ')}
        </p>
      )}
    </section>
  );
}
