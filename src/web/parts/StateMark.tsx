import {
  Archive,
  Ban,
  BellRing,
  Bot,
  CheckCheck,
  CircleDashed,
  CircleSlash,
  Hand,
  Headset,
  Hourglass,
  Inbox,
  KeyRound,
  MailQuestionMark,
  MessageCircle,
  Minus,
  Pause,
  PencilLine,
  Plug,
  Radio,
  RotateCcw,
  Send,
  TriangleAlert,
  type LucideIcon,
} from 'lucide-react';

import type { ConfirmationState } from '../../contract/consent.ts';
import type { EventMeaning } from '../../contract/profile/index.ts';
import type { Progress } from '../../contract/submissions.ts';
import type { ArrivalOutcome } from '../../contract/webhook.ts';
import type { ConsentEventKind, ConsentState } from '../../core/consent/index.ts';
import type { Arrived, DeliveryState, Standing, TargetTrial } from '../../core/delivery/index.ts';
import type { Finding, SampleRow } from '../../core/plan/index.ts';
import type { ChatStatus, ImportState, MailState, PublishState } from '../../core/states/index.ts';
import type { ConnectionStanding } from './connectionStanding.ts';

type Mark = { icon: LucideIcon; tone: string; word?: string };

const WAITING: Mark = { icon: MailQuestionMark, tone: 'text-secondary', word: 'waits for confirmation' };
const HELD: Mark = { icon: Hand, tone: 'text-error' };
const DELIVERED: Mark = { icon: CheckCheck, tone: 'text-success' };
const ACCEPTED: Mark = { icon: CheckCheck, tone: 'text-info', word: 'accepted, not looked at' };
const SENT: Mark = { icon: CheckCheck, tone: 'text-success' };
const DROPPED: Mark = { icon: Ban, tone: 'text-muted' };
const QUEUED: Mark = { icon: Hourglass, tone: 'text-info' };
const SENDING: Mark = { icon: Send, tone: 'text-info' };
const CONFIRMED: Mark = { icon: CheckCheck, tone: 'text-success' };
const EXPIRED: Mark = { icon: Hourglass, tone: 'text-muted' };
const WITHDRAWN: Mark = { icon: Ban, tone: 'text-error' };
const PAUSED: Mark = { icon: Pause, tone: 'text-muted' };

/** Every state that is shown anywhere, by what it is a state of: an icon, a tone, and the word where it is not the state itself. */
const MARKS = {
  submission: {
    received: { icon: Inbox, tone: 'text-muted' },
    waiting: WAITING,
    'on its way': { icon: Send, tone: 'text-info' },
    held: HELD,
    delivered: DELIVERED,
    accepted: ACCEPTED,
    sent: SENT,
    'nothing to send': { icon: Minus, tone: 'text-muted' },
    dropped: DROPPED,
    'set aside': { icon: Bot, tone: 'text-warning' },
    failed: { icon: TriangleAlert, tone: 'text-error' },
  } satisfies Record<Progress | Arrived, Mark>,
  delivery: {
    waiting: WAITING,
    queued: QUEUED,
    sending: SENDING,
    retrying: { icon: RotateCcw, tone: 'text-warning' },
    held: HELD,
    delivered: DELIVERED,
    accepted: ACCEPTED,
    dropped: DROPPED,
  } satisfies Record<DeliveryState | 'accepted', Mark>,
  mail: {
    waiting: WAITING,
    queued: QUEUED,
    sending: SENDING,
    sent: SENT,
    held: HELD,
    dropped: DROPPED,
  } satisfies Record<MailState, Mark>,
  confirmation: {
    pending: { icon: MailQuestionMark, tone: 'text-secondary' },
    confirmed: CONFIRMED,
    expired: EXPIRED,
    withdrawn: WITHDRAWN,
  } satisfies Record<ConfirmationState, Mark>,
  consent: {
    none: { icon: Minus, tone: 'text-muted' },
    asked: { icon: MailQuestionMark, tone: 'text-secondary' },
    given: { icon: CircleDashed, tone: 'text-info' },
    waiting: WAITING,
    'not given': { icon: Minus, tone: 'text-muted' },
    confirmed: CONFIRMED,
    refused: { icon: Ban, tone: 'text-error' },
    withdrawn: WITHDRAWN,
    expired: EXPIRED,
  } satisfies Record<ConsentState | ConsentEventKind, Mark>,
  /** How another system holds somebody, and what it tells of that. */
  subscription: {
    subscribed: { icon: CheckCheck, tone: 'text-success' },
    unconfirmed: { icon: MailQuestionMark, tone: 'text-secondary' },
    unsubscribed: { icon: Ban, tone: 'text-error' },
    suppressed: { icon: Ban, tone: 'text-error', word: 'blocked there' },
    confirmed: CONFIRMED,
    trial: { icon: CircleDashed, tone: 'text-muted' },
  } satisfies Record<Standing | EventMeaning, Mark>,
  publishing: {
    draft: { icon: PencilLine, tone: 'text-brass' },
    changed: { icon: PencilLine, tone: 'text-brass', word: 'changed, not published' },
    live: { icon: Radio, tone: 'text-success' },
    paused: PAUSED,
    archived: { icon: Archive, tone: 'text-muted' },
  } satisfies Record<PublishState | 'changed' | 'archived', Mark>,
  /** A file that is imported. */
  import: {
    fetching: { icon: Hourglass, tone: 'text-info', word: 'is fetched' },
    judging: { icon: Hourglass, tone: 'text-info', word: 'is looked through' },
    unreadable: { icon: TriangleAlert, tone: 'text-error', word: 'cannot be read' },
    ready: { icon: CircleDashed, tone: 'text-brass', word: 'waits for you' },
    rehearsing: { icon: Hourglass, tone: 'text-info', word: 'is rehearsed' },
    running: { icon: Send, tone: 'text-info', word: 'is taken' },
    paused: PAUSED,
    done: { icon: CheckCheck, tone: 'text-success' },
    cancelled: { icon: Ban, tone: 'text-muted' },
    undoing: { icon: RotateCcw, tone: 'text-warning', word: 'is undone' },
    undone: { icon: RotateCcw, tone: 'text-muted' },
  } satisfies Record<ImportState, Mark>,
  conversation: {
    talking: { icon: MessageCircle, tone: 'text-info', word: 'goes on' },
    wanted: { icon: BellRing, tone: 'text-warning', word: 'waits for somebody' },
    taken: { icon: Headset, tone: 'text-info', word: 'with a colleague' },
    ended: { icon: CheckCheck, tone: 'text-success', word: 'came to its end' },
    'broken off': { icon: CircleSlash, tone: 'text-muted', word: 'broke off' },
  } satisfies Record<ChatStatus, Mark>,
  /** What came to an address for programs. */
  arrival: {
    taken: { icon: CheckCheck, tone: 'text-success' },
    repeated: { icon: RotateCcw, tone: 'text-muted', word: 'came again' },
    ignored: { icon: Minus, tone: 'text-muted' },
    'not genuine': { icon: KeyRound, tone: 'text-error', word: 'does not show who sent it' },
    'not readable': { icon: TriangleAlert, tone: 'text-error' },
    'not valid': { icon: TriangleAlert, tone: 'text-error', word: 'not taken' },
    closed: { icon: Pause, tone: 'text-warning', word: 'came while it was paused' },
    sample: { icon: CircleDashed, tone: 'text-info', word: 'kept as an example' },
  } satisfies Record<ArrivalOutcome, Mark>,
  connection: {
    connected: { icon: Plug, tone: 'text-success' },
    'not tried': { icon: CircleDashed, tone: 'text-muted', word: 'not tried yet' },
    failing: { icon: RotateCcw, tone: 'text-warning', word: 'failing, tried again' },
    'not working': { icon: TriangleAlert, tone: 'text-error' },
    paused: PAUSED,
    'credentials refused': { icon: KeyRound, tone: 'text-error' },
    'access not granted yet': { icon: KeyRound, tone: 'text-brass' },
  } satisfies Record<ConnectionStanding, Mark>,
  /** A sample under the draft. */
  sample: {
    held: { icon: Hand, tone: 'text-error', word: 'would be held' },
    refused: { icon: Ban, tone: 'text-error', word: 'may be refused' },
    'changes somebody': { icon: PencilLine, tone: 'text-warning' },
    'differs from live': { icon: CircleDashed, tone: 'text-info' },
    'nothing sent': { icon: Minus, tone: 'text-muted', word: 'nothing to send' },
    'as meant': { icon: CheckCheck, tone: 'text-success' },
  } satisfies Record<SampleRow['oddity'], Mark>,
  /** A live rehearsal. */
  rehearsal: {
    waiting: { icon: Hourglass, tone: 'text-info', word: 'is tried' },
    proved: { icon: CheckCheck, tone: 'text-success' },
    accepted: ACCEPTED,
    stale: { icon: Hourglass, tone: 'text-warning', word: 'was proved' },
    failed: { icon: TriangleAlert, tone: 'text-error', word: 'not proved' },
    'left out': { icon: Minus, tone: 'text-muted' },
  } satisfies Record<TargetTrial['state'] | 'stale', Mark>,
  /** What preflight found. */
  finding: {
    blocker: { icon: Hand, tone: 'text-error' },
    warning: { icon: TriangleAlert, tone: 'text-warning' },
    hint: { icon: CircleDashed, tone: 'text-muted' },
    'let stand': { icon: CheckCheck, tone: 'text-muted', word: 'let stand:' },
  } satisfies Record<Finding['level'] | 'let stand', Mark>,
};

/** What can have a state. */
export type Stateful = keyof typeof MARKS;
export type StateOf<What extends Stateful> = keyof (typeof MARKS)[What] & string;

const markOf = <What extends Stateful>(what: What, state: StateOf<What>): Mark =>
  (MARKS[what] as Record<string, Mark>)[state] as Mark;

/** The word for a state. */
export const stateWord = <What extends Stateful>(what: What, state: StateOf<What>): string =>
  markOf(what, state).word ?? state;

/** The same of a state that was not looked at yet: what is none of them is its own word. */
export const wordOfAny = (what: Stateful, state: string): string =>
  (MARKS[what] as Partial<Record<string, Mark>>)[state]?.word ?? state;

export function StateMark<What extends Stateful>({
  of,
  state,
  iconOnly = false,
}: {
  of: What;
  state: StateOf<What>;
  /** Where there is no room for the word: it is read aloud, and shown on hover. */
  iconOnly?: boolean;
}) {
  const { icon: Icon, tone, word = state } = markOf(of, state);
  return (
    <span
      className={`inline-flex items-baseline gap-1.5 whitespace-nowrap ${tone}`}
      {...(iconOnly ? { title: word } : {})}
    >
      <Icon size={15} aria-hidden="true" className="shrink-0 self-center" />
      <span className={iconOnly ? 'sr-only' : ''}>{word}</span>
    </span>
  );
}
