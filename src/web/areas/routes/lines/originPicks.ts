import { factFields } from '../../../../core/intake/index.ts';
import { fieldsUsedIn, withIds, withNames, type LineOrigin, type MapLine } from '../../../../core/mapping/index.ts';
import { printValue, type FieldValues, type SourceField } from '../../../../core/values/index.ts';

/** Something that a line can be filled from. */
export interface OriginPick {
  id: string;
  name: string;
  hint: string;
  from: LineOrigin | null;
}

const said = (text: string): string => (text.length > 30 ? `${text.slice(0, 30)}…` : text);

/**
 * What a line can be filled from, by what was typed: fields with such a name, then the typed words themselves as a text with
 * fields or as a fixed value.
 */
export function originPicks(
  typed: string,
  { line, fields, values }: { line: MapLine | null; fields: SourceField[]; values: FieldValues },
): OriginPick[] {
  const sought = typed.trim().toLowerCase();
  const own = factFields(fields)
    .filter(({ label, key }) => sought === '' || `${label} ${key}`.toLowerCase().includes(sought))
    .map(({ id, label }): OriginPick => ({
      id: `field ${id}`,
      name: label,
      hint: said(printValue(values[id])),
      from: { kind: 'field', field: id },
    }));
  const before = line?.from.kind === 'field' ? [line.from.field] : [];
  const others: OriginPick[] = [
    { id: 'text', name: 'a text with fields in it', hint: '', from: { kind: 'text', text: '' } },
    { id: 'fixed', name: 'a fixed value', hint: '', from: { kind: 'fixed', value: '' } },
    { id: 'first', name: 'the first of several that is filled in', hint: '', from: { kind: 'first', fields: before } },
    ...(line ? [{ id: 'nothing', name: 'nothing', hint: 'is not sent', from: null }] : []),
  ];
  // Who types what one of them is called means it, and no text of that name.
  const meant = others.filter(({ name }) => sought === '' || name === sought);
  return [...own, ...meant, ...(sought === '' ? [] : typedPicks(typed.trim(), fields))];
}

/** What was typed, taken as it stands. */
function typedPicks(typed: string, fields: SourceField[]): OriginPick[] {
  const text = withIds(typed, factFields(fields));
  const fixed: OriginPick = {
    id: 'fixed',
    name: `"${typed}"`,
    hint: 'fixed value',
    from: { kind: 'fixed', value: typed },
  };
  return fieldsUsedIn(text).length > 0
    ? [{ id: 'text', name: `"${typed}"`, hint: 'text with fields', from: { kind: 'text', text } }, fixed]
    : [fixed];
}

/** What a line is filled from, in words; '' for nothing. */
export function originInWords(line: MapLine | null, fields: SourceField[]): string {
  if (!line) return '';
  const known = factFields(fields);
  const nameOf = (id: string) => known.find((field) => field.id === id)?.label ?? `${id} (not in the source)`;
  const { from } = line;
  switch (from.kind) {
    case 'field':
      return nameOf(from.field);
    case 'first':
      return from.fields.length === 0 ? 'the first of several' : from.fields.map(nameOf).join(', or else ');
    case 'text':
      return from.text === '' ? 'a text with fields in it' : `"${withNames(from.text, known)}"`;
    case 'fixed':
      return from.value === '' ? 'a fixed value' : `"${from.value}"`;
    default:
      return from satisfies never;
  }
}
