import { edgeValuesOf, inWords, type FieldValue, type FieldValues, type SourceField } from '../values/index.ts';

/** A made-up submission of a sort that real ones are seldom, and that a route has to stand. */
interface EdgeSample {
  id: string;
  name: string;
  values: FieldValues;
  /** Who is supposed to have sent it; absent for somebody new. */
  standing?: SampleStanding;
}

/** Who is supposed to have sent a sample: somebody known, somebody who left before, or a robot. */
export const SAMPLE_STANDINGS = ['known', 'left', 'robot'] as const;
export type SampleStanding = (typeof SAMPLE_STANDINGS)[number];

const STANDINGS: [standing: SampleStanding, name: string][] = [
  ['known', 'somebody known, with other answers before'],
  ['left', 'somebody who took their consent back'],
  ['robot', 'a robot'],
];

/** Texts in which something is the matter, as a name and as any other text. All of it is invented. */
const TEXTS: [id: string, name: string, person: string, words: string][] = [
  ['one-word', 'a name of one word', 'Quillara', 'Yes'],
  ['arabic', 'in Arabic', 'ليلى النجار', 'مساء الخير'],
  ['greek', 'in Greek', 'Ελένη Αστέρη', 'Καλησπέρα'],
  ['japanese', 'in Japanese', '星野 花', 'こんばんは'],
  ['accents', 'with combining accents', 'Zoe\u0308 A\u030Angstro\u0308m', 'de\u0301ja\u0300 vu'],
  ['emoji', 'with emoji', 'Mara 🔭 Quill', 'See you 👩‍🚀'],
  ['wrong-type', 'words where a figure or a date belongs', 'Mara Quill', 'a dozen, some day soon'],
  ['capitals', 'in capitals, with blanks around', '  MARA   QUILL ', '  HELLO   THERE '],
];

/**
 * Samples of the edge: nothing entered, the longest texts, other scripts, names that are written otherwise, and people who are
 * not new.
 * @param isScreened whether robots are looked for in what comes by it
 */
export function edgeSamples(fields: SourceField[], isScreened: boolean): EdgeSample[] {
  const of = (pick: (field: SourceField) => FieldValue): FieldValues =>
    Object.fromEntries(fields.map((field) => [field.id, pick(field)]));
  return [
    {
      id: 'edge-empty',
      name: 'nothing but what is required',
      values: of((field) => (field.required ? usual(field) : '')),
    },
    { id: 'edge-longest', name: 'the longest texts', values: of((field) => longest(field) ?? usual(field)) },
    ...TEXTS.map(([id, name, person, words]) => ({
      id: `edge-${id}`,
      name,
      values: of((field) => textFor(field, person, words) ?? usual(field)),
    })),
    ...STANDINGS.filter(([standing]) => isScreened || standing !== 'robot').map(([standing, name]) => ({
      id: `edge-${standing}`,
      name,
      values: of(usual),
      standing,
    })),
  ];
}

/** A made-up submission as people send it: of a source that has received nothing yet. */
export const exampleValues = (fields: SourceField[]): FieldValues =>
  Object.fromEntries(fields.map((field) => [field.id, usual(field)]));

const WORDS: Record<string, string> = { first_name: 'Mara', last_name: 'Quill', full_name: 'Mara Quill' };

/** A value as people give it: a box that is ticked, the first answer, otherwise the first that the type is tried with. */
function usual({ type, widget, options, preset, keepAs, label }: SourceField): FieldValue {
  switch (type) {
    case 'yes/no':
      return true;
    case 'several choices':
      return options.slice(0, 2);
    case 'choice':
      return options[0] ?? '';
    case 'email':
      return 'mara.quill@visitor.example';
    case 'text':
      return widget === 'hidden' ? preset : (WORDS[keepAs] ?? label);
    default:
      return edgeValuesOf(type)[0] ?? '';
  }
}

function longest({ type }: SourceField): FieldValue | undefined {
  if (type !== 'text' && type !== 'long text') return undefined;
  const all = edgeValuesOf(type).map((value) => inWords(value));
  const most = all.reduce((longer, text) => (text.length > longer.length ? text : longer), '');
  return type === 'long text' ? `${'All night long. '.repeat(200)}\n${most}` : most;
}

/** What is written into a field in such a manner: a name where it asks for one. */
function textFor({ type, widget, keepAs }: SourceField, person: string, words: string): FieldValue | undefined {
  const [given = '', ...others] = person.trim().split(/\s+/);
  if (type === 'person name') return { given, family: others.join(' ') };
  // What nobody enters is as the page sets it.
  if ((type !== 'text' && type !== 'long text') || widget === 'hidden') return undefined;
  switch (keepAs) {
    case 'first_name':
      return given;
    case 'last_name':
      return others.join(' ');
    case 'full_name':
      return person;
    default:
      return words;
  }
}
