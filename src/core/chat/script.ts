import { TESTS, TEST_NAMES, type Condition, type TestName } from '../conditions/index.ts';
import { FIELD_TYPES, plainField, type SourceField } from '../values/index.ts';
import { fieldsFilledBy, type ChatPart, type ChatRule, type ChatStep, type Hours, type Onward } from './chat.ts';

/*
 * A conversation as text that is written fast. A part begins at the margin with its name; its steps are indented, one a line; what belongs to a
 * step is indented further. What people read stands in quotes.
 *
 *   Welcome
 *     say "Clear skies!"
 *     choose topic "What brings you here?"
 *       "An evening" > Evenings
 *       "Something else"
 *     ask email (email) "Where can we write to you?" > Later
 *     form "A little more" name, town
 *     agree letter "May we write once a month?" : "Yes, send me the Sky letter."
 *     if topic is "An evening" > Evenings
 *     if 09:00-17:00 Mon-Fri Europe/London > Desk
 *     look up topic into desk otherwise "office"
 *       "An evening" = "box office"
 *     tell desk@pellam-ridge.example "A question" : "{question}"
 *     hand over "One moment." 90 s > Later
 *     go > Evenings
 *     end "See you!" https://pellam-ridge.example "The evenings"
 */

/** What a script cannot be read for. */
export interface ScriptIssue {
  /** From 1. */
  line: number;
  text: string;
}

/** A conversation with the fields that it fills in. */
export interface Scripted {
  parts: ChatPart[];
  fields: SourceField[];
}

/** Days as a script writes them, Monday first. */
export const DAYS = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun'];

/** Writes a conversation as a script, which reads as the same again. */
export function printScript({ parts, fields }: Scripted): string {
  const keyOf = (id: string) => fields.find((field) => field.id === id)?.key ?? id;
  const typeOf = (id: string) => fields.find((field) => field.id === id)?.type ?? 'text';
  const nameOf = (id: string) => parts.find((part) => part.id === id)?.name ?? id;
  const to = (onward: Onward) => (onward === '' ? '' : ` > ${nameOf(onward)}`);
  const words = (...some: string[]) => some.filter((one) => one !== '').join(' ');
  const lines = (step: ChatStep): string[] => {
    switch (step.kind) {
      case 'say':
        return [`say ${quoted(step.text)}`];
      case 'choose':
        return [
          `choose ${keyOf(step.field)} ${quoted(step.text)}`,
          ...step.choices.map((one) => `  ${quoted(one.label)}${to(one.to)}`),
        ];
      case 'ask':
        return [`ask ${keyOf(step.field)} (${typeOf(step.field)}) ${quoted(step.text)}${to(step.otherwise)}`];
      case 'form':
        return [`form ${quoted(step.text)} ${step.fields.map((id) => `${keyOf(id)} (${typeOf(id)})`).join(', ')}`];
      case 'consent': {
        const label = fields.find(({ id }) => id === step.field)?.label ?? '';
        return [`agree ${keyOf(step.field)} ${quoted(step.text)} : ${quoted(label)}`];
      }
      case 'decide':
        return step.rules.map((rule) => `if ${printRule(rule, keyOf)}${to(rule.to)}`);
      case 'look up':
        return [
          words(
            `look up ${keyOf(step.from)} into ${keyOf(step.into)}`,
            step.otherwise === '' ? '' : `otherwise ${quoted(step.otherwise)}`,
          ),
          ...step.pairs.map(([answer, value]) => `  ${quoted(answer)} = ${quoted(value)}`),
        ];
      case 'notify':
        return [`tell ${step.to.join(', ')} ${quoted(step.subject)} : ${quoted(step.text)}`];
      case 'hand over':
        return [`hand over ${quoted(step.text)} ${step.seconds} s${to(step.otherwise)}`];
      case 'jump':
        return [`go${to(step.to)}`];
      case 'end':
        return [words(`end ${quoted(step.text)}`, step.link === '' ? '' : `${step.link} ${quoted(step.linkText)}`)];
      default:
        return step satisfies never;
    }
  };
  return parts
    .map((part) => [part.name, ...part.steps.flatMap(lines).map((line) => `  ${line}`)].join('\n'))
    .join('\n\n')
    .concat('\n');
}

const quoted = (text: string): string =>
  `"${text.replaceAll('\\', '\\\\').replaceAll('"', '\\"').replaceAll('\n', '\\n')}"`;

function printRule({ id, when, hours }: ChatRule, keyOf: (id: string) => string): string {
  if (hours) return `${hours.from}-${hours.to} ${printDays(hours.days)} ${hours.zone}`;
  if (when === null) return 'nothing else';
  // What is more than one test is written elsewhere, and named here.
  if (when.kind !== 'test') return `#${id}`;
  const asks = TESTS[when.test].asks !== 'nothing';
  return `${keyOf(when.field)} ${TESTS[when.test].words}${asks ? ` ${quoted(when.value)}` : ''}`;
}

/** Such as Mon-Fri, or Mon, Wed. */
function printDays(days: number[]): string {
  const sorted = [...days].sort((a, b) => a - b);
  const [first = 1] = sorted;
  const last = sorted.at(-1) ?? first;
  const isRow = sorted.length > 2 && last - first === sorted.length - 1;
  const name = (day: number) => DAYS[day - 1] ?? '';
  return isRow ? `${name(first)}-${name(last)}` : sorted.map(name).join(',');
}

/** A word, a quoted text, or a sign. */
type Token = { kind: 'word'; text: string } | { kind: 'text'; text: string } | { kind: 'sign'; text: string };

function tokensOf(line: string): Token[] | null {
  const tokens: Token[] = [];
  let rest = line.trim();
  while (rest !== '') {
    const text = /^"((?:[^"\\]|\\.)*)"/.exec(rest);
    const sign = /^[>:=(),]/.exec(rest);
    const word = /^[^\s">:=(),]+(?::\/\/[^\s"]*|:\d\d[^\s">=(),]*)?/.exec(rest);
    const found = text ?? sign ?? word;
    if (!found) return null;
    const kind = text ? 'text' : sign ? 'sign' : 'word';
    tokens.push({ kind, text: text ? unquoted(text[1] ?? '') : found[0] });
    rest = rest.slice(found[0].length).trimStart();
  }
  return tokens;
}

const unquoted = (text: string): string => text.replace(/\\(.)/g, (_, sign: string) => (sign === 'n' ? '\n' : sign));

class Unreadable extends Error {}
const no = (text: string): never => {
  throw new Unreadable(text);
};

const missing = (what: string): never => no(`There should be ${what} here.`);

/** Takes tokens one after the other. */
class Tokens {
  #left: Token[];
  constructor(tokens: Token[]) {
    this.#left = [...tokens];
  }
  peek(kind: Token['kind'], text?: string): boolean {
    const [next] = this.#left;
    return next?.kind === kind && (text === undefined || next.text === text);
  }
  take(kind: Token['kind'], what: string): string {
    const next = this.#left.shift();
    return next?.kind === kind ? next.text : missing(what);
  }
  may(kind: Token['kind'], text?: string): string | null {
    return this.peek(kind, text) ? (this.#left.shift()?.text ?? null) : null;
  }
  words(): string[] {
    const words: string[] = [];
    while (this.peek('word')) words.push(this.take('word', 'a word'));
    return words;
  }
  get left(): Token[] {
    return this.#left;
  }
  end(): void {
    const [next] = this.#left;
    if (next) no(`Nothing more is expected at “${next.text}”.`);
  }
}

/**
 * Reads a script.
 * @param before what it was before: what stays keeps its ids, and fields what is not written here
 * @param newId for what is new
 */
export function readScript(
  text: string,
  before: Scripted,
  newId: () => string,
): { scripted: Scripted; issues: ScriptIssue[] } {
  const issues: ScriptIssue[] = [];
  const lines = text.replace(/\r\n?/g, '\n').split('\n');
  const names = lines.filter((line) => /^\S/.test(line)).map((line) => line.trim());
  const idOfName = new Map<string, string>();
  for (const name of names) {
    if (idOfName.has(name)) continue;
    idOfName.set(name, before.parts.find((part) => part.name === name)?.id ?? newId());
  }
  const fields = before.fields.map((field) => ({ ...field }));
  const used = new Set<string>();
  const fieldOf = (key: string, part: Partial<SourceField> = {}): string => {
    if (!/^[\w-]{1,60}$/.test(key)) no(`“${key}” cannot be the name of a field: it has letters, digits and _ alone.`);
    let field = fields.find((one) => one.key === key);
    if (!field) {
      // An id begins with a letter, and outlives renaming.
      const free = /^[a-z]/i.test(key) && !fields.some(({ id }) => id === key);
      field = { ...plainField(key, part.type ?? 'text'), id: free ? key : `f${newId()}`, label: part.label ?? key };
      fields.push(field);
    }
    Object.assign(field, part);
    used.add(field.id);
    return field.id;
  };
  const toPart = (tokens: Tokens): Onward => {
    if (tokens.may('sign', '>') === null) return '';
    const name = tokens.words().join(' ');
    return idOfName.get(name) ?? no(name === '' ? 'Say where it goes on.' : `There is no part “${name}”.`);
  };
  const parts: ChatPart[] = [];
  let step: ChatStep | null = null;
  const stepIds = (kind: ChatStep['kind']): string => {
    const part = parts.at(-1);
    const old = before.parts.find(({ id }) => id === part?.id);
    const same = old?.steps.filter((one) => one.kind === kind) ?? [];
    const count = part?.steps.filter((one) => one.kind === kind).length ?? 0;
    return same[count]?.id ?? newId();
  };
  const ruleIds = new Set<string>();
  const ruleId = (says: string): string => {
    const base = `r-${says.replace(/[^\w-]/g, '')}`.slice(0, 34);
    let id = base;
    for (let count = 2; ruleIds.has(id); count += 1) id = `${base}-${count}`;
    ruleIds.add(id);
    return id;
  };
  const typeIn = (tokens: Tokens): SourceField['type'] | undefined => {
    if (tokens.may('sign', '(') === null) return undefined;
    const name = tokens.words().join(' ');
    if (tokens.may('sign', ')') === null) missing('a )');
    return (
      FIELD_TYPES.find((type) => type === name) ??
      no(`There is no type “${name}”: it is one of ${FIELD_TYPES.join(', ')}.`)
    );
  };
  const typed = (type: SourceField['type'] | undefined) => (type === undefined ? {} : { type });
  for (const [index, line] of lines.entries()) {
    if (line.trim() === '') continue;
    try {
      if (/^\S/.test(line)) {
        const name = line.trim();
        if (parts.some((part) => part.name === name)) no(`There are two parts “${name}”.`);
        parts.push({ id: idOfName.get(name) ?? newId(), name, steps: [] });
        step = null;
        continue;
      }
      const part = parts.at(-1) ?? no('Before its first step, a conversation needs the name of a part at the margin.');
      const tokens = new Tokens(tokensOf(line) ?? no('A quote is not closed.'));
      if (tokens.peek('text')) {
        const words = tokens.take('text', 'a text');
        if (step?.kind === 'choose') {
          step.choices.push({ label: words, to: toPart(tokens) });
          const field = fields.find(({ id }) => id === (step as { field: string }).field);
          if (field) field.options = step.choices.map(({ label }) => label);
        } else if (step?.kind === 'look up') {
          if (tokens.may('sign', '=') === null) missing('a =');
          step.pairs.push([words, tokens.take('text', 'a text in quotes')]);
        } else no('An answer in quotes stands below “choose” or “look up”.');
        tokens.end();
        continue;
      }
      const read = readStep(tokens, { fieldOf, typeIn, typed, toPart, newId: stepIds, ruleId, before });
      if (read.kind === 'decide' && step?.kind === 'decide' && part.steps.at(-1) === step) {
        step.rules.push(...read.rules);
        continue;
      }
      step = read;
      part.steps.push(step);
    } catch (error) {
      if (!(error instanceof Unreadable)) throw error;
      issues.push({ line: index + 1, text: error.message });
    }
  }
  const named = new Set([...used, ...parts.flatMap(({ steps }) => steps.flatMap(fieldsFilledBy))]);
  // What the script made and does not name any more goes; what is there for something else stays.
  const made = new Set(before.parts.flatMap(({ steps }) => steps.flatMap(fieldsFilledBy)));
  return {
    scripted: { parts, fields: fields.filter(({ id }) => named.has(id) || !made.has(id)) },
    issues,
  };
}

interface StepReading {
  fieldOf: (key: string, part?: Partial<SourceField>) => string;
  typeIn: (tokens: Tokens) => SourceField['type'] | undefined;
  typed: (type: SourceField['type'] | undefined) => Partial<SourceField>;
  toPart: (tokens: Tokens) => Onward;
  newId: (kind: ChatStep['kind']) => string;
  /** An id made of what a rule says: the same for the same. */
  ruleId: (says: string) => string;
  before: Scripted;
}

function readStep(tokens: Tokens, reading: StepReading): ChatStep {
  const { fieldOf, typeIn, typed, toPart, newId } = reading;
  const text = () => tokens.take('text', 'a text in quotes');
  const colon = () => tokens.may('sign', ':') ?? missing('a :');
  const key = () => tokens.take('word', 'the name of a field');
  const done = <Step extends ChatStep>(step: Step): Step => {
    tokens.end();
    return step;
  };
  const verb = tokens.take('word', 'say, choose, ask, form, agree, if, look up, tell, hand over, go or end');
  switch (verb) {
    case 'say':
      return done({ id: newId('say'), kind: 'say', text: text() });
    case 'choose': {
      const name = key();
      const words = text();
      const field = fieldOf(name, { type: 'choice', label: words, options: [] });
      return done({ id: newId('choose'), kind: 'choose', field, text: words, choices: [] });
    }
    case 'ask': {
      const [name, type] = [key(), typeIn(tokens)];
      const words = text();
      return done({
        id: newId('ask'),
        kind: 'ask',
        field: fieldOf(name, { label: words, ...typed(type) }),
        text: words,
        otherwise: toPart(tokens),
      });
    }
    case 'form': {
      const words = text();
      const fields: string[] = [];
      do {
        const name = key();
        fields.push(fieldOf(name, typed(typeIn(tokens))));
      } while (tokens.may('sign', ',') !== null);
      return done({ id: newId('form'), kind: 'form', text: words, fields });
    }
    case 'agree': {
      const name = key();
      const words = text();
      colon();
      return done({
        id: newId('consent'),
        kind: 'consent',
        field: fieldOf(name, { type: 'yes/no', label: text() }),
        text: words,
      });
    }
    case 'if': {
      const rule = readRule(tokens, reading);
      rule.to = toPart(tokens);
      return done({ id: newId('decide'), kind: 'decide', rules: [rule] });
    }
    case 'look': {
      if (tokens.may('word', 'up') === null) missing('“look up”');
      const from = fieldOf(key());
      if (tokens.may('word', 'into') === null) missing('“into” and a field');
      const into = fieldOf(key());
      const otherwise = tokens.may('word', 'otherwise') === null ? '' : text();
      return done({ id: newId('look up'), kind: 'look up', from, into, otherwise, pairs: [] });
    }
    case 'tell': {
      const to: string[] = [];
      do to.push(tokens.take('word', 'the address of a colleague'));
      while (tokens.may('sign', ',') !== null);
      const subject = text();
      colon();
      return done({ id: newId('notify'), kind: 'notify', to, subject, text: text() });
    }
    case 'hand': {
      if (tokens.may('word', 'over') === null) missing('“hand over”');
      const words = text();
      const seconds = Number(tokens.take('word', 'how many seconds'));
      if (!Number.isInteger(seconds) || seconds < 5 || seconds > 3600) no('A colleague has from 5 to 3600 seconds.');
      tokens.may('word', 's');
      return done({ id: newId('hand over'), kind: 'hand over', text: words, seconds, otherwise: toPart(tokens) });
    }
    case 'go':
      return done({ id: newId('jump'), kind: 'jump', to: toPart(tokens) });
    case 'end': {
      const words = text();
      const link = tokens.may('word') ?? '';
      if (link !== '' && !/^(https?:\/\/|mailto:|tel:)/.test(link)) no('A link begins with https://.');
      return done({ id: newId('end'), kind: 'end', text: words, link, linkText: link === '' ? '' : text() });
    }
    default:
      return no(`“${verb}” is no step: it is say, choose, ask, form, agree, if, look up, tell, hand over, go or end.`);
  }
}

function readRule(tokens: Tokens, { fieldOf, ruleId, before }: StepReading): ChatRule {
  const rules = before.parts.flatMap(({ steps }) =>
    steps.flatMap((step) => (step.kind === 'decide' ? step.rules : [])),
  );
  const words = tokens.words();
  const [first = '', ...rest] = words;
  const id = ruleId(words.join('-'));
  if (first.startsWith('#'))
    return {
      ...(rules.find((rule) => rule.id === first.slice(1)) ?? no('This condition is not there any more.')),
      to: '',
    };
  if (words.join(' ') === 'nothing else') return { id, when: null, hours: null, to: '' };
  const hours = /^(\d\d:\d\d)-(\d\d:\d\d)$/.exec(first);
  if (hours) return { id, when: null, hours: readHours(hours, rest, tokens), to: '' };
  const test = TEST_NAMES.find((name) => TESTS[name].words === rest.join(' '));
  if (!test)
    return no(
      `“${rest.join(' ')}” is no test: it is ${[...new Set(TEST_NAMES.map((name) => TESTS[name].words))].join(', ')}.`,
    );
  const value = TESTS[test].asks === 'nothing' ? '' : tokens.take('text', 'what it is compared with, in quotes');
  return { id, when: testOf(id, fieldOf(first), test, value), hours: null, to: '' };
}

const testOf = (id: string, field: string, test: TestName, value: string): Condition => ({
  kind: 'test',
  id: `t-${id}`.slice(0, 40),
  field,
  test,
  value,
});

function readHours([, from = '', to = '']: string[], rest: string[], tokens: Tokens): Hours {
  let [written = '', zone = ''] = rest;
  // Days that are listed stand with commas between them.
  while (tokens.may('sign', ',') !== null) {
    const more = tokens.words();
    written = `${written},${more[0] ?? ''}`;
    zone = more[1] ?? zone;
  }
  const days = written.split(',').flatMap((one) => {
    const [first = '', last = first] = one.split('-');
    const [a, b] = [DAYS.indexOf(first), DAYS.indexOf(last)];
    if (a < 0 || b < a) return no(`“${one}” are no days, such as Mon-Fri.`);
    return Array.from({ length: b - a + 1 }, (_, at) => a + 1 + at);
  });
  if (zone === '') no('Say in which zone, such as Europe/London.');
  return { days, from, to, zone };
}
