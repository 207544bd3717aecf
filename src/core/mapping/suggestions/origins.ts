import { answersOf, type FieldValues, type SourceField, type TypeName } from '../../values/index.ts';
import type { LineOrigin } from '../mapping.ts';
import type { ToldStep } from '../steps/index.ts';
import { READY } from '../steps/ready.ts';
import { typeByValues } from './fits.ts';
import { readingsOf, type NamedField, type Reading } from './meaning.ts';

/** One thing that could fill a field: a field of the source, a part of one, or two put together. */
export interface Origin {
  from: LineOrigin;
  fields: SourceField[];
  /** As its values show it. */
  type: TypeName;
  readings: Reading[];
  /** Steps that make it what it is; null where those of the fields' types do. */
  steps: ToldStep[] | null;
  /** Below 1 where it is made of something else. */
  worth: number;
  made: string;
}

const MADE_OF = 0.96;

/** Everything that could fill a field. */
export function originsOf(source: SourceField[], samples: FieldValues[]): Origin[] {
  const named = source.map((field): [SourceField, NamedField] => [
    field,
    {
      key: field.key,
      label: field.label,
      type: typeByValues(
        field.type,
        samples.map((values) => values[field.id]),
      ),
      answers: answersOf(field),
      keepAs: field.keepAs,
    },
  ]);
  const readings = readingsOf(named.map(([, one]) => one));
  const plain = named.map(([field, one]): Origin => ({
    from: { kind: 'field', field: field.id },
    fields: [field],
    type: one.type,
    readings: readings.get(one) ?? [],
    steps: null,
    worth: 1,
    made: '',
  }));
  return [...plain, ...plain.flatMap(splitName), ...joinedNames(plain)];
}

/** The parts of a full name. */
function splitName(origin: Origin): Origin[] {
  if (!saysOf(origin.readings, 'full name')) return [];
  const part = (sense: string, step: ToldStep): Origin => ({
    ...origin,
    type: 'text',
    readings: withSense(origin.readings, 'full name', sense),
    steps: [step],
    worth: MADE_OF,
    made: `the ${sense} is taken from “${labelOf(origin)}”`,
  });
  return [part('first name', READY.firstNames), part('last name', READY.lastName)];
}

/** First and last names that belong together, as one. */
function joinedNames(origins: Origin[]): Origin[] {
  const firsts = origins.filter(({ readings }) => saysOf(readings, 'first name'));
  const lasts = origins.filter(({ readings }) => saysOf(readings, 'last name'));
  return firsts.flatMap((first) => {
    const last = lasts.find(({ readings }) => restOf(readings, 'last name') === restOf(first.readings, 'first name'));
    const [given, family] = [first.fields[0], last?.fields[0]];
    if (!last || !given || !family) return [];
    return [
      {
        ...first,
        from: { kind: 'text' as const, text: `{${given.id}} {${family.id}}` },
        fields: [given, family],
        type: 'text' as const,
        readings: withSense(first.readings, 'first name', 'full name'),
        steps: [],
        worth: MADE_OF,
        made: `“${given.label}” and “${family.label}” are put together`,
      },
    ];
  });
}

/** What an origin is called. */
export const labelOf = ({ fields }: Origin): string => fields.map(({ label }) => label).join(', ');
/** Whether any of a field's names is about a sense. */
export const saysOf = (readings: Reading[], sense: string): boolean =>
  readings.some(({ parts }) => parts.some(({ senses }) => senses.includes(sense)));
const withSense = (readings: Reading[], sense: string, instead: string): Reading[] =>
  readings
    .filter(({ parts }) => parts.some(({ senses }) => senses.includes(sense)))
    .map((one) => ({
      ...one,
      parts: one.parts.map((part) => (part.senses.includes(sense) ? { ...part, senses: [instead] } : part)),
    }));
/** What else a field is about than a sense: the billing in a billing name. */
const restOf = (readings: Reading[], sense: string): string =>
  (readings.find(({ parts }) => parts.some(({ senses }) => senses.includes(sense)))?.parts ?? [])
    .flatMap(({ senses }) => (senses.includes(sense) ? [] : senses))
    .sort()
    .join(' ');
