import { Plus, Trash2 } from 'lucide-react';
import type { Profile } from '../../../../contract/profile/index.ts';
import { ANSWER_CAUSES, CAUSES, type AnswerCause } from '../../../../core/delivery/index.ts';
import { Field } from '../../../parts/Field.tsx';

interface MannersPartProps {
  profile: Profile;
  onChange: (profile: Profile) => void;
}

type Rule = Profile['errors'][number];
type Limit = 'perSecond' | 'burst' | 'concurrency' | 'shownAfterSeconds';

/** How fast the service may be asked, and what its errors mean beyond what their status says. */
export function MannersPart({ profile, onChange }: MannersPartProps) {
  const { limits, errors } = profile;
  const setRule = (index: number, part: Partial<Rule>) =>
    onChange({ ...profile, errors: errors.map((rule, at) => (at === index ? { ...rule, ...part } : rule)) });
  const setLimit = (name: Limit, text: string) => {
    const { [name]: _, ...others } = limits;
    const value = Number(text);
    const isSaid = text !== '' && (value > 0 || name === 'shownAfterSeconds');
    onChange({ ...profile, limits: isSaid ? { ...others, [name]: value } : others });
  };
  const limit = (label: string, name: Limit, help: string) => (
    <Field label={label} help={help}>
      <input
        className="input w-full"
        type="number"
        min="0"
        value={limits[name] ?? ''}
        onChange={(event) => setLimit(name, event.target.value)}
      />
    </Field>
  );
  return (
    <section className="flex flex-col gap-4 max-w-3xl" aria-label="Pace and errors">
      <div className="grid gap-3 sm:grid-cols-2 lg:grid-cols-4">
        {limit('Requests a second', 'perSecond', 'Empty: as it answers.')}
        {limit('At once after a rest', 'burst', 'Empty: as many as in a second.')}
        {limit('Under way at a time', 'concurrency', 'Empty: 4.')}
        {limit('New records show after, seconds', 'shownAfterSeconds', 'Empty: 30. Until then none is made twice.')}
      </div>
      <div>
        <h3 className="font-semibold">What its errors mean</h3>
        <p className="text-muted text-sm mb-2">
          By their status most are understood. Add those that say more: a code or a type in the answer.
        </p>
        <ul className="flex flex-col gap-2">
          {errors.map((rule, index) => (
            <li key={index} className="grid gap-2 items-center sm:grid-cols-[5.5rem_1fr_1fr_1fr_auto]">
              <input
                className="input input-sm w-full"
                type="number"
                aria-label="Status"
                value={rule.status}
                onChange={(event) => setRule(index, { status: Number(event.target.value) })}
              />
              <input
                className="input input-sm w-full font-mono"
                aria-label="Where in the answer"
                placeholder="$.code"
                value={rule.code?.path ?? ''}
                onChange={(event) => setRule(index, codeOf(event.target.value, rule.code?.is ?? ''))}
              />
              <input
                className="input input-sm w-full font-mono"
                aria-label="What stands there"
                placeholder="any"
                value={rule.code?.is ?? rule.type ?? ''}
                onChange={(event) => setRule(index, saying(rule, event.target.value))}
              />
              <select
                className="select select-sm w-full"
                aria-label="Means"
                title={CAUSES[rule.cause].sentence}
                value={rule.cause}
                onChange={(event) => setRule(index, { cause: event.target.value as AnswerCause })}
              >
                {ANSWER_CAUSES.map((cause) => (
                  <option key={cause}>{cause}</option>
                ))}
              </select>
              <button
                className="btn btn-sm btn-ghost btn-square"
                aria-label="Remove this rule"
                onClick={() => onChange({ ...profile, errors: errors.filter((_, at) => at !== index) })}
              >
                <Trash2 size={14} aria-hidden="true" />
              </button>
            </li>
          ))}
        </ul>
        <button
          className="btn btn-sm mt-2"
          onClick={() => onChange({ ...profile, errors: [...errors, { status: 422, cause: 'value refused' }] })}
        >
          <Plus size={14} aria-hidden="true" /> Add a rule
        </button>
      </div>
    </section>
  );
}

/** A rule goes by the type of a problem document, or by a code in the answer. */
const saying = (rule: Rule, words: string): Partial<Rule> =>
  rule.type !== undefined && !rule.code ? { type: words } : codeOf(rule.code?.path ?? '', words);

/** A rule by a code in the answer; without a place it goes by the status alone. */
function codeOf(path: string, is: string): Partial<Rule> {
  return path === '' && is === '' ? { code: undefined } : { code: { path: path || '$.code', is } };
}
