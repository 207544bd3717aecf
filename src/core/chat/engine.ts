import { decide } from '../conditions/index.ts';
import type { FormLanguage } from '../forms/index.ts';
import {
  isTick,
  parseFieldValue,
  printValue,
  takesFile,
  type FieldValues,
  type FileValue,
  type SourceField,
} from '../values/index.ts';
import type { ChatParts, ChatStep, Hours, Onward } from './chat.ts';
import { understand, understandChoice, understandYesNo } from './understand.ts';

/** Where a conversation is, and what was answered so far. Plain JSON: it is kept between two answers. */
export interface ChatState {
  /** The step that is waited at; null once it has ended. */
  at: string | null;
  values: FieldValues;
  /** How often what was typed for that step was not understood. */
  misses: number;
}

/** Words of ours in a conversation, that are not the document's. */
export type ChatSaying = 'again' | 'again, last' | 'never mind' | 'answer one of these' | 'colleague left';

/** Something that is said. */
export interface ChatLine {
  by: 'us' | 'visitor';
  text: string;
  /** Said in our own words, in the visitor's language. */
  saying?: ChatSaying;
  link?: { url: string; text: string };
}

/** What is waited for. */
export type Awaited =
  | { kind: 'choice'; choices: string[] }
  | { kind: 'text'; type: SourceField['type'] }
  | { kind: 'form'; fields: SourceField[] }
  /** @param kinds the media types that are taken; none for any */
  | { kind: 'file'; kinds: string[]; required: boolean }
  | { kind: 'consent'; words: string }
  | { kind: 'colleague'; seconds: number }
  | { kind: 'nothing' };

/** What a visitor does. */
export type ChatInput =
  | { kind: 'text'; text: string }
  | { kind: 'consent'; yes: boolean }
  | { kind: 'form'; entries: Record<string, string> }
  /** A file that was stored; null for going on without one. */
  | { kind: 'file'; file: FileValue | null }
  /** Nobody came within the time. */
  | { kind: 'nobody came' };

/** What is to be done outside of the conversation. */
export type ChatEffect =
  { kind: 'notify'; to: string[]; subject: string; text: string } | { kind: 'hand over'; seconds: number };

export interface ChatTurn {
  state: ChatState;
  lines: ChatLine[];
  effects: ChatEffect[];
  /** What is wrong with the entries of a small form, by the keys of its fields. */
  issues: { field: string; message: string }[];
}

export interface ChatFacts {
  fields: SourceField[];
  language: FormLanguage;
  /** What is known of the visitor, by the ids of such facts, and those as fields. */
  known: FieldValues;
  knowledge: SourceField[];
  /** In milliseconds since 1970. */
  now: number;
}

/** So often something is asked that was not understood: once, and twice again. */
const MOST_MISSES = 2;
/** More steps than this without a word of the visitor are a loop. */
const MOST_STEPS = 200;

/** How a conversation begins. */
export function beginChat({ parts }: ChatParts, facts: ChatFacts): ChatTurn {
  const turn: ChatTurn = { state: { at: null, values: {}, misses: 0 }, lines: [], effects: [], issues: [] };
  return run(parts, turn, parts[0]?.steps[0] ?? null, facts);
}

/** What is waited for in a conversation. */
export function awaited({ parts }: ChatParts, { at }: ChatState, fields: SourceField[]): Awaited {
  const step = stepAt(parts, at);
  const fieldOf = (id: string) => fields.find((field) => field.id === id);
  switch (step?.kind) {
    case 'choose':
      return { kind: 'choice', choices: step.choices.map(({ label }) => label) };
    case 'ask': {
      const field = fieldOf(step.field);
      return field?.type === 'file'
        ? { kind: 'file', kinds: field.options, required: field.required }
        : { kind: 'text', type: field?.type ?? 'text' };
    }
    case 'form':
      return { kind: 'form', fields: step.fields.flatMap((id) => fieldOf(id) ?? []) };
    case 'consent':
      return { kind: 'consent', words: fieldOf(step.field)?.label ?? '' };
    case 'hand over':
      return { kind: 'colleague', seconds: step.seconds };
    default:
      return { kind: 'nothing' };
  }
}

/** What becomes of what a visitor said. Pure: the same for the same. */
export function answerChat(document: ChatParts, state: ChatState, input: ChatInput, facts: ChatFacts): ChatTurn {
  const { parts } = document;
  const turn: ChatTurn = { state: { ...state, values: { ...state.values } }, lines: [], effects: [], issues: [] };
  const step = stepAt(parts, state.at);
  const fieldOf = (id: string) => facts.fields.find((field) => field.id === id);
  const goOn = (to: Onward = '') => {
    turn.state.misses = 0;
    return run(parts, turn, step ? follow(parts, step, to) : null, facts);
  };
  const said = (text: string) => void turn.lines.push({ by: 'visitor', text });
  const again = (question: string, otherwise: Onward): ChatTurn => {
    turn.state.misses += 1;
    if (turn.state.misses > MOST_MISSES) {
      turn.lines.push({ by: 'us', text: '', saying: 'never mind' });
      return goOn(otherwise);
    }
    const isLast = turn.state.misses === MOST_MISSES;
    turn.lines.push({ by: 'us', text: question, saying: isLast ? 'again, last' : 'again' });
    return turn;
  };
  switch (step?.kind) {
    case 'choose': {
      if (input.kind !== 'text') return turn;
      said(input.text);
      const label = understandChoice(
        step.choices.map((one) => one.label),
        input.text,
      );
      const chosen = step.choices.find((one) => one.label === label);
      if (!chosen) {
        turn.state.misses += 1;
        turn.lines.push({ by: 'us', text: '', saying: 'answer one of these' });
        return turn;
      }
      const field = fieldOf(step.field);
      if (field) turn.state.values[field.id] = field.type === 'several choices' ? [chosen.label] : chosen.label;
      return goOn(chosen.to);
    }
    case 'ask': {
      const field = fieldOf(step.field);
      if (field?.type === 'file' && input.kind === 'file') {
        if (input.file === null) return field.required ? again(step.text, step.otherwise) : goOn(step.otherwise);
        const taken = takesFile(field, input.file);
        if (!taken.ok) return { ...turn, issues: [{ field: field.key, message: taken.issue }] };
        said(input.file.name);
        turn.state.values[field.id] = taken.value;
        return goOn();
      }
      if (input.kind !== 'text') return turn;
      said(input.text);
      if (!field) return goOn();
      if (field.type === 'file') return again(step.text, step.otherwise);
      const read = understand(field, input.text, facts.language);
      if (!read.ok) return again(step.text, step.otherwise);
      turn.state.values[field.id] = read.value;
      return goOn();
    }
    case 'consent': {
      const field = fieldOf(step.field);
      const yes =
        input.kind === 'consent'
          ? input.yes
          : input.kind === 'text'
            ? understandYesNo(input.text, facts.language)
            : null;
      if (input.kind === 'text') said(input.text);
      if (yes === null) return again(step.text, '');
      if (input.kind === 'consent') said(yes ? '✓' : '✗');
      if (field) turn.state.values[field.id] = yes;
      return goOn();
    }
    case 'form': {
      if (input.kind !== 'form') return turn;
      for (const id of step.fields) {
        const field = fieldOf(id);
        if (!field) continue;
        const sent = input.entries[field.key];
        const read = parseFieldValue(field, sent === undefined || (isTick(field) && sent === '') ? [] : [sent]);
        if (read.ok) turn.state.values[field.id] = read.value;
        else turn.issues.push({ field: field.key, message: read.issue });
      }
      if (turn.issues.length > 0) return { ...turn, state };
      for (const id of step.fields) {
        const value = turn.state.values[id];
        if (value !== undefined && printValue(value) !== '') said(`${fieldOf(id)?.label ?? id}: ${printValue(value)}`);
      }
      return goOn();
    }
    case 'hand over':
      if (input.kind === 'nobody came') return goOn(step.otherwise);
      if (input.kind === 'text') said(input.text);
      return turn;
    default:
      // It has ended: what is said now is kept, and answered by nobody.
      if (input.kind === 'text') said(input.text);
      return turn;
  }
}

/** What becomes of what a visitor says while a colleague has the conversation: it is theirs to answer, and no answer to any step. */
export const toldColleague = (state: ChatState, input: ChatInput): ChatTurn => ({
  state,
  lines: input.kind === 'text' ? [{ by: 'visitor', text: input.text }] : [],
  effects: [],
  issues: [],
});

/** A conversation goes on after a colleague has left it: behind the step that fetched them, or with what was asked when they came. */
export function afterColleague({ parts }: ChatParts, state: ChatState, facts: ChatFacts): ChatTurn {
  const turn: ChatTurn = { state: { ...state, misses: 0 }, lines: [], effects: [], issues: [] };
  const step = stepAt(parts, state.at);
  const next = step?.kind === 'hand over' ? follow(parts, step, '') : (step ?? null);
  return run(parts, turn, next, facts);
}

const stepAt = (parts: ChatParts['parts'], id: string | null): ChatStep | undefined =>
  id === null ? undefined : parts.flatMap(({ steps }) => steps).find((step) => step.id === id);

/** The step after one, or the first of a part. */
function follow(parts: ChatParts['parts'], step: ChatStep, to: Onward): ChatStep | null {
  if (to !== '') return parts.find(({ id }) => id === to)?.steps[0] ?? null;
  const part = parts.find(({ steps }) => steps.some(({ id }) => id === step.id));
  const index = part?.steps.findIndex(({ id }) => id === step.id) ?? -1;
  return part?.steps[index + 1] ?? null;
}

/** Says and does everything up to the next step that waits for somebody. */
function run(parts: ChatParts['parts'], turn: ChatTurn, from: ChatStep | null, facts: ChatFacts): ChatTurn {
  let step = from;
  const { values } = turn.state;
  const say = (text: string) => {
    if (text !== '') turn.lines.push({ by: 'us', text: filled(text, values, facts.fields) });
  };
  for (let count = 0; step !== null && count < MOST_STEPS; count += 1) {
    switch (step.kind) {
      case 'say':
        say(step.text);
        step = follow(parts, step, '');
        break;
      case 'choose':
      case 'ask':
      case 'form':
      case 'consent':
        say(step.text);
        turn.state.at = step.id;
        return turn;
      case 'hand over':
        say(step.text);
        turn.state.at = step.id;
        turn.effects.push({ kind: 'hand over', seconds: step.seconds });
        return turn;
      case 'decide': {
        const rule = step.rules.find(({ when, hours }) => {
          if (hours !== null) return isWithin(hours, facts.now);
          if (when === null) return true;
          const all = { values: { ...values, ...facts.known }, now: facts.now };
          return decide(when, all, [...facts.fields, ...facts.knowledge]).verdict === 'holds';
        });
        step = follow(parts, step, rule?.to ?? '');
        break;
      }
      case 'look up': {
        const { from: asked, pairs, otherwise, into } = step;
        const given = values[asked];
        const text = given === undefined ? '' : printValue(given);
        const found = pairs.find(([answer]) => answer.trim().toLowerCase() === text.trim().toLowerCase());
        const value = found?.[1] ?? otherwise;
        if (value !== '') values[into] = value;
        step = follow(parts, step, '');
        break;
      }
      case 'notify':
        turn.effects.push({
          kind: 'notify',
          to: step.to,
          subject: filled(step.subject, values, facts.fields),
          text: filled(step.text, values, facts.fields),
        });
        step = follow(parts, step, '');
        break;
      case 'jump':
        step = follow(parts, step, step.to);
        break;
      case 'end': {
        const link = step.link === '' ? null : { url: filled(step.link, values, facts.fields), text: step.linkText };
        if (step.text !== '' || link)
          turn.lines.push({ by: 'us', text: filled(step.text, values, facts.fields), ...(link ? { link } : {}) });
        step = null;
        break;
      }
      default:
        step satisfies never;
    }
  }
  turn.state.at = null;
  return turn;
}

/** A text with what was answered in the place of {field}. */
export const filled = (text: string, values: FieldValues, fields: SourceField[]): string =>
  text.replace(/\{([\w-]{1,60})\}/g, (whole, name: string) => {
    const field = fields.find(({ id, key }) => id === name || key === name);
    const value = field && values[field.id];
    return field ? (value === undefined ? '' : printValue(value)) : whole;
  });

/** Whether a moment is within hours of the week, by the clock of their zone. */
export function isWithin({ days, from, to, zone }: Hours, now: number): boolean {
  const parts = new Intl.DateTimeFormat('en-GB', {
    timeZone: zone,
    weekday: 'short',
    hour: '2-digit',
    minute: '2-digit',
    hourCycle: 'h23',
  }).formatToParts(now);
  const part = (type: string) => parts.find((one) => one.type === type)?.value ?? '';
  const day = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun'].indexOf(part('weekday')) + 1;
  const time = `${part('hour')}:${part('minute')}`;
  // Over midnight, the night belongs to the day on which it began.
  if (from <= to) return days.includes(day) && time >= from && time < to;
  const before = day === 1 ? 7 : day - 1;
  return (days.includes(day) && time >= from) || (days.includes(before) && time < to);
}
