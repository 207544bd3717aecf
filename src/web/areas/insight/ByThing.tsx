import { useQueryState } from 'nuqs';
import { Link } from 'react-router';
import type { InsightView, ValueInsight } from '../../../contract/insight.ts';
import { variantName } from '../../../core/forms/index.ts';
import { FUNNEL, SITE_KINDS, type SiteKind } from '../../../core/insight/index.ts';
import { useSaySite } from '../../data/insight.ts';
import { useSources } from '../../data/sources.ts';
import { ActionError } from '../../parts/States.tsx';
import { figure } from '../../parts/figures.ts';
import { Rate, STEP_WORDS } from './FunnelTable.tsx';
import { linkTo } from './links.ts';
import { SaveTable } from './SaveTable.tsx';

const KIND_WORDS: Record<SiteKind, string> = {
  search: 'a search engine',
  social: 'a social network',
  mail: 'a mailbox',
  referral: 'another site',
};

/** The same by pages, campaigns, devices or where visitors came from; of questions, how often each was answered. */
export function ByThing({ view }: { view: InsightView }) {
  const { by, values, more, from, to } = view;
  const [source] = useQueryState('source');
  const sources = useSources().data ?? [];
  const say = useSaySite();
  if (values.length === 0) return <p className="text-muted">Nothing is known of that in this time.</p>;
  const isQuestion = by === 'question';
  const variantIn = (id: string): string => {
    for (const { name, live, draft } of sources) {
      const variant = variantName(live, id) || variantName(draft, id);
      if (variant !== '') return source ? variant : `${name}: ${variant}`;
    }
    return `${id} (it is no more)`;
  };
  const labelOf = ({ value }: ValueInsight): string => {
    if (by === 'variant') return variantIn(value);
    if (!isQuestion) return value;
    const fields = sources.filter(({ id }) => !source || id === source).flatMap(({ draft }) => draft.fields);
    return fields.find(({ id }) => id === value)?.label ?? value;
  };
  const steps = isQuestion ? [] : FUNNEL;
  return (
    <>
      <div className="overflow-x-auto">
        <table className="table table-sm">
          <thead className="text-muted">
            <tr>
              <th scope="col">{isQuestion ? 'Question' : 'Value'}</th>
              {isQuestion && (
                <th scope="col" className="text-right">
                  Answered
                </th>
              )}
              {steps.map((step) => (
                <th key={step} scope="col" className="text-right">
                  {STEP_WORDS[step]}
                </th>
              ))}
              {!isQuestion && (
                <th scope="col" className="text-right">
                  Completed of shown
                </th>
              )}
            </tr>
          </thead>
          <tbody>
            {values.map((value) => (
              <tr key={value.value}>
                <th scope="row" className="font-normal break-all">
                  {labelOf(value)}
                  {by === 'referrer' && (
                    <select
                      className="select select-xs w-auto ml-3"
                      aria-label={`What ${value.value} is`}
                      value={value.kind ?? ''}
                      disabled={say.isPending}
                      onChange={({ target }) =>
                        say.mutate({ host: value.value, kind: (target.value || null) as SiteKind | null })
                      }
                    >
                      <option value="">as its name says</option>
                      {SITE_KINDS.map((kind) => (
                        <option key={kind} value={kind}>
                          {KIND_WORDS[kind]}
                        </option>
                      ))}
                    </select>
                  )}
                </th>
                {isQuestion && <td className="text-right tabular-nums">{figure(value.answered)}</td>}
                {steps.map((step) => (
                  <td key={step} className="text-right tabular-nums">
                    {step === 'shown' || step === 'started' ? (
                      figure(value.counts[step])
                    ) : (
                      <Link
                        className="plain-link"
                        to={linkTo(view, step, { by, value: value.value, ...(source ? { source } : {}) })}
                      >
                        {figure(value.counts[step])}
                      </Link>
                    )}
                  </td>
                ))}
                {!isQuestion && (
                  <td className="text-right tabular-nums">
                    <Rate counts={value.counts} />
                  </td>
                )}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      {by === 'referrer' && (
        <p className="text-muted text-sm mt-2">
          What a site is decides how visitors from there are counted as having come, from now on.
        </p>
      )}
      <ActionError error={say.error} />
      <p className="flex items-center gap-3 mt-2">
        <SaveTable
          name={`by ${by} ${from} to ${to}`}
          head={[
            isQuestion ? 'Question' : 'Value',
            ...(isQuestion ? ['Answered'] : FUNNEL.map((step) => STEP_WORDS[step])),
          ]}
          rows={values.map((value) => [
            labelOf(value),
            ...(isQuestion ? [value.answered] : FUNNEL.map((step) => value.counts[step])),
          ])}
        />
        {more > 0 && <span className="text-muted">and {more} more</span>}
      </p>
    </>
  );
}
