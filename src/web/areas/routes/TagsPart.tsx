import { Lightbulb, Plus, X } from 'lucide-react';
import { useId } from 'react';
import { tagsFor, type Target, type TargetTag } from '../../../core/plan/index.ts';
import { answersOf, type FieldValues, type SourceField } from '../../../core/values/index.ts';
import { useNow } from '../../parts/useNow.ts';
import { LinesInput } from '../../parts/LinesInput.tsx';
import { ConditionPart } from '../../parts/conditions/ConditionPart.tsx';
import { setGroup } from '../../parts/conditions/conditionEdits.ts';
import { newPartId } from '../../parts/newPartId.ts';
import { answerOf, setAnswerTag, setTagForEach, setTagsForAll, tagFor } from './routeEdits.ts';

interface TagsPartProps {
  target: Target;
  fields: SourceField[];
  /** Tags that exist there. */
  known: string[];
  /** Whether the service can take tags off again. */
  canTakeOff: boolean;
  values: FieldValues;
  onChange: (part: Partial<Target>) => void;
}

/** Tags: some for everybody, some by an answer, some for those for whom more is true. */
export function TagsPart({ target, fields, known, canTakeOff, values, onChange }: TagsPartProps) {
  const listId = useId();
  const { tags } = target;
  const answering = fields.filter((field) => tagAnswers(field).length > 0);
  const answers = answering.flatMap((field) => tagAnswers(field).map((answer) => ({ field, answer })));
  const isByAnswer = (tag: TargetTag) => {
    const by = answerOf(tag);
    return by !== null && answers.some(({ field, answer }) => field.id === by.field && answer === by.answer);
  };
  const others = tags.filter((tag) => tag.when !== null && !isByAnswer(tag));
  const set = (tag: TargetTag) => onChange({ tags: tags.map((one) => (one.id === tag.id ? tag : one)) });
  const now = tagsFor(target, { values, now: useNow() });
  return (
    <div className="flex flex-col gap-3">
      <datalist id={listId}>
        {known.map((tag) => (
          <option key={tag} value={tag} />
        ))}
      </datalist>
      <div className="grid gap-5 sm:grid-cols-2">
        <div className="flex flex-col gap-1">
          <h4 className="font-semibold">Tags for everybody</h4>
          <LinesInput
            aria-label="Tags for everybody, one a line"
            lines={tags.filter(({ when }) => when === null).map(({ tag }) => tag)}
            onChange={(names) => onChange({ tags: setTagsForAll(tags, names) })}
            rows={3}
          />
          <p className="text-muted text-sm">
            One a line. There are: {known.join(', ') || 'none yet'}. Others are made there when first used.
          </p>
          {canTakeOff && (
            <>
              <h4 className="font-semibold mt-2">Tags taken off</h4>
              <LinesInput
                aria-label="Tags taken off everybody, one a line"
                lines={target.tagsOff}
                onChange={(tagsOff) => onChange({ tagsOff })}
                rows={2}
              />
            </>
          )}
          <p>
            For the sample: <strong>{now.join(', ') || 'none'}</strong>
          </p>
        </div>
        {answers.length > 0 && (
          <div>
            <h4 className="font-semibold mb-1">Tags by answer</h4>
            {answering.map((field) => (
              <AnswerTags
                key={field.id}
                field={field}
                tags={tags}
                known={known}
                listId={listId}
                onChange={(next) => onChange({ tags: next })}
              />
            ))}
          </div>
        )}
      </div>
      {others.map((tag) => (
        <div key={tag.id} className="border-l-2 border-base-300 pl-3 flex flex-col gap-2">
          <div className="flex items-center gap-2">
            <label className="flex items-center gap-2">
              <span className="font-semibold">Tag</span>
              <input
                className="input input-sm w-48"
                list={listId}
                value={tag.tag}
                onChange={(event) => set({ ...tag, tag: event.target.value })}
              />
            </label>
            <button
              className="btn btn-xs btn-ghost btn-square"
              aria-label={`Set the tag ${tag.tag || 'without a name'} on nobody`}
              onClick={() => onChange({ tags: tags.filter((one) => one !== tag) })}
            >
              <X size={14} aria-hidden="true" />
            </button>
          </div>
          <ConditionPart
            when={tag.when}
            fields={fields}
            values={values}
            words={{ who: 'Who gets it', holds: 'it is set' }}
            onChange={(when) => set({ ...tag, when })}
          />
        </div>
      ))}
      <div>
        <button
          className="btn btn-xs"
          onClick={() =>
            onChange({ tags: [...tags, { id: newPartId(), tag: '', when: setGroup(null, 'all', fields) }] })
          }
        >
          <Plus size={13} aria-hidden="true" /> A tag for some people
        </button>
      </div>
    </div>
  );
}

/** The answers by which a tag can be set; of a tick only that it is ticked. */
const tagAnswers = (field: SourceField): string[] => (field.type === 'yes/no' ? ['yes'] : answersOf(field));

/** The tags for the answers to one question. */
function AnswerTags({
  field,
  tags,
  known,
  listId,
  onChange,
}: {
  field: SourceField;
  tags: TargetTag[];
  known: string[];
  listId: string;
  onChange: (tags: TargetTag[]) => void;
}) {
  const { id, label, type } = field;
  const open = tagAnswers(field)
    .filter((answer) => tagFor(tags, id, answer) === '')
    .map((answer) => ({ field: id, answer }));
  return (
    <div className="mb-2">
      {type !== 'yes/no' && (
        <div className="flex items-center justify-between gap-2 mb-1">
          <h5 className="text-muted leading-tight">{label}</h5>
          {open.length > 0 && (
            <button
              className="btn btn-xs"
              aria-label={`A tag for each answer to ${label}`}
              onClick={() => onChange(setTagForEach(tags, open, known))}
            >
              <Lightbulb size={13} aria-hidden="true" /> A tag for each
            </button>
          )}
        </div>
      )}
      <ul className="flex flex-col gap-1">
        {tagAnswers(field).map((answer) => {
          const words = type === 'yes/no' ? `${label.slice(0, 60)}: yes` : answer;
          return (
            <li key={answer} className="grid grid-cols-[minmax(0,1fr)_9rem] gap-2 items-center">
              <span className="leading-tight">{words}</span>
              <input
                className="input input-sm w-full"
                list={listId}
                placeholder="no tag"
                aria-label={`Tag for ${words}`}
                value={tagFor(tags, id, answer)}
                onChange={(event) => onChange(setAnswerTag(tags, id, answer, event.target.value))}
              />
            </li>
          );
        })}
      </ul>
    </div>
  );
}
