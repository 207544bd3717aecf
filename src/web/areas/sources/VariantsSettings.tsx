import { Plus } from 'lucide-react';
import type { SourceView } from '../../../contract/source.ts';
import { GOALS, withVariant, type Compared, type Goal, type Variant } from '../../../core/forms/index.ts';
import { Field } from '../../parts/Field.tsx';
import { FigureInput } from '../../parts/FigureInput.tsx';
import { Labelled } from '../../parts/Labelled.tsx';
import { newPartId } from '../../parts/newPartId.ts';
import { VariantsResult } from './VariantsResult.tsx';

const GOAL_WORDS: Record<Goal, string> = {
  completed: 'who sent it',
  confirmed: 'who confirmed',
  delivered: 'whose data arrived at a destination',
  reached: 'who come to a certain page later',
};
const goalWords = (kind: 'form' | 'chat', goal: Goal): string =>
  kind === 'chat' && goal === 'completed' ? 'who talked to its end' : GOAL_WORDS[goal];

const MOST = 4;
const NAMES = ['A', 'B', 'C', 'D'];

/** Shares that add up to 100, as even as whole numbers are. */
const evenly = <Face extends object>(variants: Variant<Face>[]): Variant<Face>[] => {
  const each = Math.floor(100 / variants.length);
  return variants.map((one, at) => ({ ...one, share: at === 0 ? 100 - each * (variants.length - 1) : each }));
};

interface VariantsSettingsProps<Face extends object, Document extends Comparable<Face>> {
  /** What is wrong with the part at a JSON Pointer. */
  about: (pointer: string) => string | undefined;
  source: SourceView;
  /** The form or chat itself, whichever variant is worked on. */
  whole: Document;
  onWhole: (document: Document) => void;
  /** What of it variants say in their own way. */
  faceOf: (document: Document) => Face;
  /** Which variant is worked on; '' for the form or chat itself. */
  editing: string;
  onEdit: (id: string) => void;
}

type Comparable<Face extends object> = Compared<Face> & { kind: 'form' | 'chat' };

/** Shows a form or a chat in two or more ways, and says which does better. */
export function VariantsSettings<Face extends object, Document extends Comparable<Face>>({
  source,
  whole,
  onWhole,
  faceOf,
  about,
  editing,
  onEdit,
}: VariantsSettingsProps<Face, Document>) {
  const { variants, kind } = whole;
  const set = (part: Partial<Comparable<Face>>) => onWhole({ ...whole, ...part });
  const begin = () => {
    const [own, other] = [newPartId(), newPartId()];
    const itself: Variant<Face> = { id: own, name: 'A', share: 50, face: null, nothing: false };
    set({ variants: [itself, { id: other, name: 'B', share: 50, face: faceOf(whole), nothing: false }] });
    onEdit(other);
  };
  const change = (id: string, part: Partial<Variant<Face>>) =>
    set({ variants: variants.map((one) => (one.id === id ? { ...one, ...part } : one)) });
  const remove = (id: string) => {
    onEdit('');
    const left = variants.filter((one) => one.id !== id);
    set({ variants: left.length < 2 ? [] : evenly(left) });
  };
  /** Ends the comparison: what is kept is the form or chat from here on. */
  const keep = (id: string) => {
    onEdit('');
    onWhole({ ...whole, ...faceOf(withVariant(whole, id)), variants: [] });
  };
  if (variants.length === 0)
    return (
      <div className="flex flex-col gap-3">
        <p>
          {kind === 'form'
            ? 'Show the form in two to four ways that differ in words, look or questions, and see which one more people send.'
            : 'Have two to four conversations that differ in words, look or ways, and see in which one more people come to the end.'}
        </p>
        <button className="btn btn-sm self-start" onClick={begin}>
          <Plus size={14} aria-hidden="true" /> Make a second variant
        </button>
      </div>
    );
  return (
    <div className="flex flex-col gap-4">
      {about('/variants') && (
        <p role="alert" className="text-error font-semibold">
          {about('/variants')}
        </p>
      )}
      <ul className="flex flex-col gap-2">
        {variants.map(({ id, name, share, face, nothing }) => (
          <li key={id} className="border border-base-300 rounded p-3 flex flex-col gap-2">
            <div className="grid grid-cols-2 gap-3">
              <Labelled label="Name">
                <input
                  className="input input-sm w-full"
                  value={name}
                  onChange={({ target }) => change(id, { name: target.value })}
                />
              </Labelled>
              <FigureInput
                label="Shown to, in percent"
                most={99}
                value={share}
                onChange={(value) => change(id, { share: value })}
              />
            </div>
            <div className="flex flex-wrap gap-2">
              {nothing ? (
                <>
                  <span className="text-muted">Nothing is shown to them.</span>
                  <button className="btn btn-xs btn-ghost" onClick={() => remove(id)}>
                    Remove {name}
                  </button>
                </>
              ) : face === null ? (
                <button className="btn btn-xs" aria-pressed={editing === ''} onClick={() => onEdit('')}>
                  Work on the {kind} itself
                </button>
              ) : (
                <>
                  <button className="btn btn-xs" aria-pressed={editing === id} onClick={() => onEdit(id)}>
                    Work on {name}
                  </button>
                  <button className="btn btn-xs btn-ghost" onClick={() => remove(id)}>
                    Remove {name}
                  </button>
                </>
              )}
              {!nothing && (
                <button className="btn btn-xs btn-ghost" onClick={() => keep(id)}>
                  End it, and keep {name}
                </button>
              )}
            </div>
          </li>
        ))}
      </ul>
      {variants.length < MOST && !variants.some(({ nothing }) => nothing) && (
        <button
          className="btn btn-sm self-start"
          onClick={() =>
            set({
              variants: evenly([
                ...variants,
                { id: newPartId(), name: 'Nothing', share: 1, face: null, nothing: true },
              ]),
              goal: 'reached',
            })
          }
        >
          <Plus size={14} aria-hidden="true" /> Nothing at all, for some
        </button>
      )}
      {variants.length < MOST && (
        <button
          className="btn btn-sm self-start"
          onClick={() => {
            const id = newPartId();
            const name = NAMES.find((one) => !variants.some((variant) => variant.name === one)) ?? 'Another';
            set({ variants: evenly([...variants, { id, name, share: 1, face: faceOf(whole), nothing: false }]) });
            onEdit(id);
          }}
        >
          <Plus size={14} aria-hidden="true" /> Another variant
        </button>
      )}
      <Field label="The better one has more people" error={about('/goal')}>
        <select
          className="select select-sm w-full"
          value={whole.goal}
          onChange={({ target }) => set({ goal: target.value as Goal })}
        >
          {GOALS.map((goal) => (
            <option key={goal} value={goal}>
              {goalWords(kind, goal)}
            </option>
          ))}
        </select>
      </Field>
      {whole.goal === 'reached' && (
        <Field
          label="That page"
          help="A pattern such as /thanks* or /shop/done. It counts where the site says that the visitor agreed to being remembered: only then is it known who came."
          error={about('/goalPage')}
        >
          <input
            className="input input-sm w-full font-mono"
            value={whole.goalPage}
            placeholder="/thanks*"
            onChange={({ target }) => set({ goalPage: target.value.trim() })}
          />
        </Field>
      )}
      <p className="text-muted text-sm">
        Nobody meets another variant than before where the site says that the visitor agreed to that being remembered;
        elsewhere it is chosen anew on every page
        {kind === 'form'
          ? '. HTML that was copied is the form itself.'
          : ', until somebody opens the chat: that one goes on.'}
      </p>
      <VariantsResult
        sourceId={source.id}
        kind={kind}
        live={source.live?.kind === 'form' || source.live?.kind === 'chat' ? source.live.variants : []}
      />
    </div>
  );
}
