import { parseEmail, typeOf, UNKNOWN_MANNER, type FieldValue, type TypeName } from '../../values/index.ts';

/**
 * How well values of a type go into a field of another, from 0 (not at all) to 1 (always). Texts can hold anything, so that they go
 * where a value is read from them, as long as it is one. Common practice, with no published source.
 */
export function fits(from: TypeName, to: TypeName): number {
  if (from === to || to === 'long text') return 1;
  if (to === 'text') return from === 'file' || from === 'list of records' ? 0.7 : from === 'long text' ? 0.9 : 1;
  return INTO[to]?.[from] ?? (isText(from) ? (FROM_TEXT[to] ?? 0.5) : 0);
}

const isText = (type: TypeName): boolean => type === 'text' || type === 'long text' || type === 'choice';

const FROM_TEXT: Partial<Record<TypeName, number>> = {
  email: 0.6,
  phone: 0.9,
  number: 0.8,
  money: 0.6,
  date: 0.85,
  'date-time': 0.7,
  country: 0.95,
  language: 0.9,
  choice: 0.9,
  'several choices': 0.8,
  'yes/no': 0.4,
  URL: 0.8,
  'person name': 0.9,
  'postal address': 0.7,
};

/** What goes where without being a text. */
const INTO: Partial<Record<TypeName, Partial<Record<TypeName, number>>>> = {
  number: { money: 0.95, 'yes/no': 0.85 },
  date: { 'date-time': 0.95 },
  'date-time': { date: 0.7 },
  'several choices': { choice: 0.95 },
  choice: { 'several choices': 0.5, 'yes/no': 0.6, country: 0.8, language: 0.8 },
  'yes/no': { number: 0.5 },
  URL: { file: 0.8 },
};

const ENOUGH = 0.8;

/** The type of a text field by the values that came: one of which most are, if there is one. */
export function typeByValues(type: TypeName, values: (FieldValue | undefined)[]): TypeName {
  if (type !== 'text') return type;
  const texts = values.filter((value): value is string => typeof value === 'string' && value.trim() !== '');
  if (texts.length === 0) return type;
  return TELLING.find((one) => texts.filter(READS[one]).length >= texts.length * ENOUGH) ?? type;
}

const TELLING = ['email', 'URL', 'date-time', 'date'] as const;
const READS: Record<(typeof TELLING)[number], (text: string) => boolean> = {
  email: (text) => parseEmail(text).ok,
  URL: (text) => /^https?:\/\//i.test(text.trim()) && typeOf('URL').parse(text, UNKNOWN_MANNER).ok,
  'date-time': (text) => /\d{4}-\d{2}-\d{2}T/.test(text) && typeOf('date-time').parse(text, UNKNOWN_MANNER).ok,
  date: (text) => typeOf('date').parse(text, UNKNOWN_MANNER).ok,
};
