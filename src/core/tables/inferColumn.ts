import { ISO_DAY, parseEmail, typeOf, UNKNOWN_MANNER, type TypeName } from '../values/index.ts';

/** How the values of a column are written, where that could be read in two ways. */
export const WRITTEN = ['as it is', 'day first', 'month first', 'decimal comma', 'decimal point'] as const;
export type Written = (typeof WRITTEN)[number];

/** What was found out about a column, over all of its rows. */
export interface InferredColumn {
  name: string;
  type: TypeName;
  written: Written;
  /** What it was judged by, as a sentence. */
  because: string;
  /** In how many rows something stands. */
  filled: number;
  /** How many of those are of the type. */
  fits: number;
  /** The first few that are not, with their rows. */
  misfits: { row: number; value: string }[];
  examples: string[];
}

const MOST_MISFITS = 5;
const MOST_EXAMPLES = 3;

/** Three numbers with signs between, as a day is written. */
const DAY = /^(\d{1,2})([./-])(\d{1,2})\2(\d{4}|\d{2})$/;
const DECIMAL = /^-?\d{1,3}([., ’']?\d{3})*([.,]\d+)?$|^-?\d+([.,]\d+)?$/;

/** What one value could be, beside a text. */
type Could = 'email' | 'phone' | 'day' | 'iso' | 'date-time' | 'number' | 'yes/no' | 'URL' | 'time';

const COULDS: Could[] = ['email', 'phone', 'iso', 'date-time', 'day', 'time', 'number', 'yes/no', 'URL'];
const YES_NO = /^(yes|no|true|false|ja|nein|oui|non|sí|si|sì|nee|tak|nie|sim|não|nej)$/i;

function couldBe(could: Could, text: string): boolean {
  switch (could) {
    case 'email':
      return text.includes('@') && parseEmail(text).ok;
    case 'phone':
      return /^\+[\d\s()./-]{6,}$/.test(text);
    case 'iso':
      return ISO_DAY.test(text) && typeOf('date').parse(text, UNKNOWN_MANNER).ok;
    case 'day':
      return DAY.test(text);
    case 'date-time':
      return /^\d{4}-\d{2}-\d{2}[T ]\d{2}:\d{2}/.test(text);
    case 'time':
      return /^\d{1,2}:\d{2}(:\d{2})?$/.test(text);
    case 'number':
      // A number with a leading 0 is a name made of digits.
      return DECIMAL.test(text) && !/^-?0\d/.test(text);
    case 'yes/no':
      return YES_NO.test(text);
    case 'URL':
      return /^https?:\/\/\S+$/.test(text);
    default:
      return could satisfies never;
  }
}

const TYPES: Record<Could, TypeName> = {
  email: 'email',
  phone: 'phone',
  iso: 'date',
  day: 'date',
  'date-time': 'date-time',
  time: 'time',
  number: 'number',
  'yes/no': 'yes/no',
  URL: 'URL',
};

/** Nearly all of a column's values have to be of a type: what is left over are mistakes, which are shown. */
const NEARLY_ALL = 0.9;

/** What is found out about one column while its rows go by; nothing of them is kept but a few. */
export class ColumnInference {
  readonly #name: string;
  #filled = 0;
  #long = false;
  readonly #counts = new Map<Could, number>();
  readonly #misfits = new Map<Could, { row: number; value: string }[]>();
  readonly #examples: string[] = [];
  #firstOver12: { row: number; value: string } | null = null;
  #secondOver12: { row: number; value: string } | null = null;
  /** Whether something in it is a code of digits: a number would lose its noughts, or its last digits. */
  #isCode = false;
  #dots = false;
  #comma: { row: number; value: string } | null = null;
  #point: { row: number; value: string } | null = null;

  constructor(name: string) {
    this.#name = name;
  }

  /** @param row its number in the file, as people count */
  add(written: string, row: number): void {
    const text = written.trim();
    if (text === '') return;
    this.#filled += 1;
    this.#long ||= text.includes('\n');
    if (this.#examples.length < MOST_EXAMPLES && !this.#examples.includes(text)) this.#examples.push(text.slice(0, 80));
    for (const could of COULDS) {
      if (couldBe(could, text)) this.#counts.set(could, (this.#counts.get(could) ?? 0) + 1);
      else {
        const misfits = this.#misfits.get(could) ?? [];
        if (misfits.length < MOST_MISFITS) misfits.push({ row, value: text.slice(0, 80) });
        this.#misfits.set(could, misfits);
      }
    }
    this.#isCode ||= /^0\d+$/.test(text) || /^\d{16,}$/.test(text);
    this.#noteDay(text, row);
    this.#noteDecimal(text, row);
  }

  #noteDay(text: string, row: number): void {
    const [, first, sign, second] = DAY.exec(text) ?? [];
    if (first === undefined) return;
    this.#dots ||= sign === '.';
    if (Number(first) > 12) this.#firstOver12 ??= { row, value: text };
    if (Number(second) > 12) this.#secondOver12 ??= { row, value: text };
  }

  #noteDecimal(text: string, row: number): void {
    if (!DECIMAL.test(text)) return;
    // A mark that stands once before other than three digits, or after the other mark, parts the fraction.
    if (/^-?\d+,(\d{1,2}|\d{4,})$|\.\d{3},\d+$/.test(text)) this.#comma ??= { row, value: text };
    if (/^-?\d+\.(\d{1,2}|\d{4,})$|,\d{3}\.\d+$/.test(text)) this.#point ??= { row, value: text };
  }

  found(): InferredColumn {
    const enough = (could: Could) =>
      (this.#counts.get(could) ?? 0) >= NEARLY_ALL * this.#filled && !(could === 'number' && this.#isCode);
    const best = this.#filled === 0 ? undefined : COULDS.find(enough);
    const own = best === undefined ? this.#asText() : this.#as(best);
    return { name: this.#name, filled: this.#filled, examples: this.#examples, ...own };
  }

  #asText(): Pick<InferredColumn, 'type' | 'written' | 'because' | 'fits' | 'misfits'> {
    const because = this.#filled === 0 ? 'It is empty.' : '';
    return { type: this.#long ? 'long text' : 'text', written: 'as it is', because, fits: this.#filled, misfits: [] };
  }

  #as(could: Could): Pick<InferredColumn, 'type' | 'written' | 'because' | 'fits' | 'misfits'> {
    const fits = this.#counts.get(could) ?? 0;
    const misfits = this.#misfits.get(could) ?? [];
    const all = fits === this.#filled ? 'All' : `${fits} of ${this.#filled}`;
    const { written, why } = could === 'day' ? this.#order() : could === 'number' ? this.#mark() : AS_IT_IS;
    return { type: TYPES[could], written, because: `${all} are like that.${why}`, fits, misfits };
  }

  #order(): { written: Written; why: string } {
    const [first, second] = [this.#firstOver12, this.#secondOver12];
    if (first && second)
      return {
        written: 'as it is',
        why: ` Row ${first.row} (${first.value}) has the day first, row ${second.row} (${second.value}) the month: say which counts, and the others are refused.`,
      };
    if (first) return { written: 'day first', why: ` The day is first: row ${first.row} has ${first.value}.` };
    if (second) return { written: 'month first', why: ` The month is first: row ${second.row} has ${second.value}.` };
    return this.#dots
      ? { written: 'day first', why: ' With points, the day is first.' }
      : {
          written: 'as it is',
          why: ' Every one could be read in two ways: say whether the day or the month is first.',
        };
  }

  #mark(): { written: Written; why: string } {
    const [comma, point] = [this.#comma, this.#point];
    if (comma && point)
      return {
        written: 'as it is',
        why: ` Row ${comma.row} (${comma.value}) has a decimal comma, row ${point.row} (${point.value}) a point: say which counts.`,
      };
    if (comma) return { written: 'decimal comma', why: ` The comma is decimal: row ${comma.row} has ${comma.value}.` };
    if (point) return { written: 'decimal point', why: ` The point is decimal: row ${point.row} has ${point.value}.` };
    return AS_IT_IS;
  }
}

const AS_IT_IS: { written: Written; why: string } = { written: 'as it is', why: '' };

const LOCALES: Partial<Record<Written, string>> = {
  'day first': 'en-GB',
  'month first': 'en-US',
  'decimal comma': 'de-DE',
  'decimal point': 'en-US',
};

/** A value as it is written everywhere, where its column says how it was written; otherwise as it came. */
export function asWritten(text: string, written: Written): string {
  const locale = LOCALES[written];
  if (locale === undefined || text.trim() === '') return text;
  const type = written === 'day first' || written === 'month first' ? 'date' : 'number';
  const read = typeOf(type).parse(text, { locale, country: null });
  return read.ok ? typeOf(type).print(read.value) : text;
}
