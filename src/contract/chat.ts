import { IsBoolean, IsIn, IsObject, IsOptional, IsString, Length, MaxLength, ValidateBy } from 'class-validator';
import { type Awaited, type ChatPart, type ChatStep, type Hours } from '../core/chat/index.ts';
import type { ChatStatus } from '../core/states/index.ts';
import { isCondition } from './conditions.ts';
import { IsPart } from './parts.ts';

const MOST_TEXT = 1_000;
const isText = (value: unknown, most = MOST_TEXT): boolean => typeof value === 'string' && value.length <= most;
const isName = (value: unknown): boolean => isText(value, 60);
const isList = (value: unknown, is: (one: unknown) => boolean, most = 40): boolean =>
  Array.isArray(value) && value.length <= most && value.every(is);

const isHours = (value: unknown): value is Hours => {
  if (typeof value !== 'object' || value === null) return false;
  const { days, from, to, zone } = value as Record<string, unknown>;
  const isTime = (text: unknown) => typeof text === 'string' && /^([01]\d|2[0-3]):[0-5]\d$/.test(text);
  return (
    isList(days, (day) => Number.isInteger(day) && Number(day) >= 1 && Number(day) <= 7, 7) &&
    isTime(from) &&
    isTime(to) &&
    isName(zone)
  );
};

/** Whether something is a step of a conversation, with all that belongs to its kind and texts that are not too long. */
function isStep(value: unknown): value is ChatStep {
  if (typeof value !== 'object' || value === null) return false;
  const step = value as Record<string, unknown>;
  if (!isName(step.id) || step.id === '') return false;
  switch (step.kind) {
    case 'say':
      return isText(step.text);
    case 'choose':
      return (
        isText(step.text) &&
        isName(step.field) &&
        isList(
          step.choices,
          (one) => {
            const { label, to } = (one ?? {}) as Record<string, unknown>;
            return isText(label, 200) && label !== '' && isName(to);
          },
          20,
        )
      );
    case 'ask':
      return isText(step.text) && isName(step.field) && isName(step.otherwise);
    case 'form':
      return isText(step.text) && isList(step.fields, isName, 10);
    case 'consent':
      return isText(step.text) && isName(step.field);
    case 'decide':
      return isList(
        step.rules,
        (one) => {
          const { id, when, hours, to } = (one ?? {}) as Record<string, unknown>;
          return isName(id) && isCondition(when) && (hours === null || isHours(hours)) && isName(to);
        },
        20,
      );
    case 'look up':
      return (
        isName(step.from) &&
        isName(step.into) &&
        isText(step.otherwise) &&
        isList(step.pairs, (pair) => isList(pair, (one) => isText(one), 2) && (pair as unknown[]).length === 2, 200)
      );
    case 'notify':
      return (
        isList(step.to, (one) => typeof one === 'string' && /^\S+@\S+$/.test(one) && one.length <= 254, 10) &&
        isText(step.subject, 200) &&
        isText(step.text, 4_000)
      );
    case 'hand over':
      return (
        isText(step.text) &&
        isName(step.otherwise) &&
        Number.isInteger(step.seconds) &&
        Number(step.seconds) >= 5 &&
        Number(step.seconds) <= 3600
      );
    case 'jump':
      return isName(step.to);
    case 'end':
      return (
        isText(step.text) &&
        isText(step.linkText, 200) &&
        isText(step.link, 500) &&
        (step.link === '' || /^(https?:\/\/|mailto:|tel:)/.test(String(step.link)))
      );
    default:
      return false;
  }
}

const isPart = (value: unknown): value is ChatPart => {
  const { id, name, steps } = (value ?? {}) as Record<string, unknown>;
  return isName(id) && id !== '' && isText(name, 80) && name !== '' && isList(steps, isStep, 100);
};

/** Refuses what are no parts of a conversation. */
export const AreParts = () =>
  ValidateBy({
    name: 'areParts',
    validator: {
      validate: (value) => isList(value, isPart, 60),
      defaultMessage: () => 'A part of the conversation is not whole, or has a text that is too long.',
    },
  });

/** What a visitor's page says of itself when a conversation begins. */
export class ChatBeginInput {
  @IsString()
  @MaxLength(300)
  page: string = '';

  @IsString()
  @MaxLength(300)
  referrer: string = '';

  /** By which the visitor is known; '' for nobody in particular. */
  @IsString()
  @MaxLength(200)
  sign: string = '';

  /** Which of its variants the page shows; '' for none. */
  @IsString()
  @MaxLength(64)
  variant: string = '';
}

class ChatSaidInput {
  @IsIn(['text', 'consent', 'form'])
  kind!: 'text' | 'consent' | 'form';

  @IsOptional()
  @IsString()
  @MaxLength(2_000, { message: 'That is too long: write it in parts.' })
  text?: string;

  @IsOptional()
  @IsBoolean()
  yes?: boolean;

  @IsOptional()
  @IsObject()
  entries?: Record<string, unknown>;
}

/** Something that a visitor says. */
export class ChatSayInput {
  /** What the page calls it, so that it counts once however often it is sent. */
  @IsString()
  @Length(8, 40)
  id!: string;

  @IsPart(() => ChatSaidInput)
  said!: ChatSaidInput;
}

/** What a colleague writes into a conversation. */
export class ChatReplyInput {
  @IsString()
  @Length(1, 2_000, { message: 'Write something.' })
  text!: string;
}

/** What is looked for in what was said. In a body, since addresses are kept by many. */
export class ChatSearchInput {
  @IsString()
  @Length(2, 100, { message: 'Write at least two letters.' })
  text!: string;

  /** The last conversation that was looked through; '' to begin with the newest. */
  @IsString()
  @MaxLength(36)
  before: string = '';
}

/** A line of a conversation. */
export interface ChatLineView {
  number: number;
  by: 'us' | 'visitor' | 'colleague';
  /** The colleague who said it. */
  name: string;
  text: string;
  link: { url: string; text: string } | null;
  at: string;
}

/** What is waited for, as the visitor's page shows it. */
export type AwaitedView =
  | Exclude<Awaited, { kind: 'form' }>
  | { kind: 'form'; fields: { key: string; label: string; type: string; options: string[]; required: boolean }[] };

/** A conversation as its visitor's page has it. */
export interface ChatView {
  lines: ChatLineView[];
  awaits: AwaitedView;
  status: ChatStatus;
  /** The colleague who has it; '' for none. */
  colleague: string;
  /** What is wrong with a small form, by the keys of its fields. */
  issues: { field: string; message: string }[];
}

export interface ChatBegun extends ChatView {
  /** By which the page goes on with it. */
  token: string;
}

/** What the button and the window of a chat need before anybody opens it. */
export interface ChatFace {
  title: string;
  launcher: string;
  language: string;
  colours: { action: string; onAction: string; ink: string; ground: string; line: string; quiet: string };
  radius: number;
  words: Record<string, string>;
}

/** So many conversations are listed at once. */
export const MOST_CONVERSATIONS = 200;

/** A conversation as a list of colleagues has it. */
export interface ConversationRow {
  id: string;
  sourceId: string;
  sourceName: string;
  status: ChatStatus;
  colleague: string;
  startedAt: string;
  touchedAt: string;
  wantedUntil: string | null;
  page: string;
  lines: number;
  /** The last thing that was said. */
  last: string;
  submissionId: string | null;
}

/** A conversation in which something was found, with the last line that has it. */
export interface FoundConversation extends ConversationRow {
  line: Pick<ChatLineView, 'by' | 'name' | 'text' | 'at'>;
}

export interface ConversationView extends ConversationRow {
  said: ChatLineView[];
  /** What was answered, by the labels of what was asked. */
  answers: {
    label: string;
    value: string;
    /** To a file that was handed over; '' for everything else. */
    link: string;
  }[];
}
