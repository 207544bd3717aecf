import { dequal } from 'dequal';
import type { SourceField } from '../values/index.ts';
import type { MadeDocument } from './source.ts';

/** How one field of a source differs from what is live. */
export interface FieldChange {
  /** Its id, by which routes know it. */
  id: string;
  label: string;
  what:
    | 'added'
    | 'removed'
    | 'renamed'
    | 'type'
    | 'required'
    | 'answers'
    | 'words'
    | 'kept'
    | 'path'
    | 'preset'
    | 'entered';
  /** What it was, and what it becomes; '' where that says nothing. */
  before: string;
  after: string;
}

/** Whether routes and pages out there may stumble over a change: what was there under a name is not any more, or is another thing. */
export const mayBreak = ({ what }: FieldChange): boolean => what === 'removed' || what === 'renamed' || what === 'type';

/** How the fields of a draft differ from the live ones, in the order of the draft. */
export function fieldChanges(live: MadeDocument, draft: MadeDocument): FieldChange[] {
  const changed = draft.fields.flatMap((field): FieldChange[] => {
    const before = live.fields.find(({ id }) => id === field.id);
    return before ? differences(before, field) : [said(field, 'added', '', '')];
  });
  const removed = live.fields.filter(({ id }) => !draft.fields.some((field) => field.id === id));
  return [...changed, ...removed.map((field) => said(field, 'removed', '', ''))];
}

const said = ({ id, label }: SourceField, what: FieldChange['what'], before: string, after: string): FieldChange => ({
  id,
  label,
  what,
  before,
  after,
});

function differences(before: SourceField, after: SourceField): FieldChange[] {
  const need = ({ required }: SourceField) => (required ? 'required' : 'optional');
  const same = (part: keyof SourceField) => dequal(before[part], after[part]);
  return [
    ...(same('key') ? [] : [said(after, 'renamed', before.key, after.key)]),
    ...(same('type') ? [] : [said(after, 'type', before.type, after.type)]),
    ...(same('required') ? [] : [said(after, 'required', need(before), need(after))]),
    ...(same('options') ? [] : [said(after, 'answers', before.options.join(', '), after.options.join(', '))]),
    ...(same('label') ? [] : [said(after, 'words', before.label, after.label)]),
    ...(same('keepAs') && same('keepRule')
      ? []
      : [said(after, 'kept', before.keepAs || 'nothing', after.keepAs || 'nothing')]),
    ...(same('path') ? [] : [said(after, 'path', before.path || before.key, after.path || after.key)]),
    ...(same('preset') ? [] : [said(after, 'preset', before.preset || 'nothing', after.preset || 'nothing')]),
    ...(ENTERED.every(same) ? [] : [said(after, 'entered', '', '')]),
  ];
}

/** What of a field changes how it looks and is entered, and nothing of what it gives. */
const ENTERED: (keyof SourceField)[] = [
  'widget',
  'help',
  'placeholder',
  'errorText',
  'labelShown',
  'pictures',
  'range',
  'width',
  'autocomplete',
];
