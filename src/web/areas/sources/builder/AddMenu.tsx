import { BLOCK_KINDS, type BlockKind } from '../../../../core/forms/index.ts';
import { FIELD_TYPES, type SourceField, type TypeName } from '../../../../core/values/index.ts';

interface AddMenuProps {
  onQuestion: (type: TypeName, more?: Partial<SourceField>) => void;
  onBlock: (kind: BlockKind) => void;
}

/** What is added most; everything else is in the lists beside it. */
const USUAL: [label: string, type: TypeName][] = [
  ['Text', 'text'],
  ['Email', 'email'],
  ['Choice', 'choice'],
  ['Tick box', 'yes/no'],
];

/** Questions that are the same type by another widget, or come with something. */
const SPECIAL: Record<string, [label: string, type: TypeName, more: Partial<SourceField>]> = {
  buttons: ['choice by buttons', 'choice', { widget: 'buttons' }],
  pictures: ['choice by pictures', 'choice', { widget: 'pictures' }],
  search: ['choice with search', 'choice', { widget: 'search' }],
  'yes or no': ['yes or no', 'yes/no', { widget: 'buttons', label: 'Would you?' }],
  stars: ['rating with stars', 'number', { widget: 'stars', label: 'How did you like it?' }],
  scale: [
    'scale',
    'number',
    {
      widget: 'scale',
      label: 'How likely are you to come again?',
      range: { from: 0, to: 10, low: 'not at all', high: 'for certain' },
    },
  ],
  'phone with country': ['phone with country', 'phone', { widget: 'country', label: 'Your phone' }],
  hidden: ['hidden', 'text', { label: 'Topic', widget: 'hidden' }],
};

const BLOCK_WORDS: Record<BlockKind, string> = {
  heading: 'heading',
  text: 'text',
  picture: 'picture',
  divider: 'line',
  page: 'new page',
};

/** Adds a question, or what stands between questions. */
export function AddMenu({ onQuestion, onBlock }: AddMenuProps) {
  return (
    <div className="flex flex-wrap gap-1.5 items-center" role="group" aria-label="Add to the form">
      <span className="text-muted">Add</span>
      {USUAL.map(([label, type]) => (
        <button key={label} className="btn btn-sm" onClick={() => onQuestion(type)}>
          {label}
        </button>
      ))}
      <select
        className="select select-sm w-36"
        aria-label="Add another question"
        value=""
        onChange={({ target: { value } }) => {
          const special = SPECIAL[value];
          if (special) onQuestion(special[1], special[2]);
          else onQuestion(value as TypeName);
        }}
      >
        <option value="">another question</option>
        {FIELD_TYPES.filter((type) => !USUAL.some(([, usual]) => usual === type)).map((type) => (
          <option key={type} value={type}>
            {type}
          </option>
        ))}
        {Object.entries(SPECIAL).map(([value, [label]]) => (
          <option key={value} value={value}>
            {label}
          </option>
        ))}
      </select>
      <select
        className="select select-sm w-32"
        aria-label="Add something between questions"
        value=""
        onChange={({ target: { value } }) => onBlock(value as BlockKind)}
      >
        <option value="">text, picture</option>
        {BLOCK_KINDS.map((kind) => (
          <option key={kind} value={kind}>
            {BLOCK_WORDS[kind]}
          </option>
        ))}
      </select>
    </div>
  );
}
