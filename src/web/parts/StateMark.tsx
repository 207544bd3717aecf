import {
  Archive,
  Ban,
  BellRing,
  Bot,
  CheckCheck,
  CircleDashed,
  CircleSlash,
  Hand,
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

type Mark = { icon: LucideIcon; tone: string; word?: string };

/** Every state that is shown anywhere: an icon, a tone, and the word itself. */
const MARKS: Record<string, Mark> = {
  received: { icon: Inbox, tone: 'text-quiet' },
  waiting: { icon: MailQuestionMark, tone: 'text-secondary', word: 'waits for confirmation' },
  'on its way': { icon: Send, tone: 'text-info' },
  queued: { icon: Hourglass, tone: 'text-info' },
  sending: { icon: Send, tone: 'text-info' },
  retrying: { icon: RotateCcw, tone: 'text-warning' },
  held: { icon: Hand, tone: 'text-error' },
  delivered: { icon: CheckCheck, tone: 'text-success' },
  dropped: { icon: Ban, tone: 'text-quiet' },
  'nothing to send': { icon: Minus, tone: 'text-quiet' },
  'set aside': { icon: Bot, tone: 'text-warning' },
  failed: { icon: TriangleAlert, tone: 'text-error' },
  draft: { icon: PencilLine, tone: 'text-brass' },
  changed: { icon: PencilLine, tone: 'text-brass', word: 'changed, not published' },
  live: { icon: Radio, tone: 'text-success' },
  paused: { icon: Pause, tone: 'text-quiet' },
  archived: { icon: Archive, tone: 'text-quiet' },
  // consent
  none: { icon: Minus, tone: 'text-quiet' },
  asked: { icon: MailQuestionMark, tone: 'text-secondary' },
  given: { icon: CircleDashed, tone: 'text-info' },
  'not given': { icon: Minus, tone: 'text-quiet' },
  confirmed: { icon: CheckCheck, tone: 'text-success' },
  refused: { icon: Ban, tone: 'text-error' },
  withdrawn: { icon: Ban, tone: 'text-error' },
  expired: { icon: Hourglass, tone: 'text-quiet' },
  // how another system holds somebody
  subscribed: { icon: CheckCheck, tone: 'text-success' },
  unconfirmed: { icon: MailQuestionMark, tone: 'text-secondary' },
  unsubscribed: { icon: Ban, tone: 'text-error' },
  suppressed: { icon: Ban, tone: 'text-error', word: 'blocked there' },
  // files that are imported
  fetching: { icon: Hourglass, tone: 'text-info', word: 'is fetched' },
  // conversations
  talking: { icon: MessageCircle, tone: 'text-info', word: 'goes on' },
  wanted: { icon: BellRing, tone: 'text-warning', word: 'waits for somebody' },
  ended: { icon: CheckCheck, tone: 'text-success', word: 'came to its end' },
  'broken off': { icon: CircleSlash, tone: 'text-quiet', word: 'broke off' },
  judging: { icon: Hourglass, tone: 'text-info', word: 'is looked through' },
  unreadable: { icon: TriangleAlert, tone: 'text-error', word: 'cannot be read' },
  ready: { icon: CircleDashed, tone: 'text-brass', word: 'waits for you' },
  rehearsing: { icon: Hourglass, tone: 'text-info', word: 'is rehearsed' },
  running: { icon: Send, tone: 'text-info', word: 'is taken' },
  done: { icon: CheckCheck, tone: 'text-success' },
  cancelled: { icon: Ban, tone: 'text-quiet' },
  undoing: { icon: RotateCcw, tone: 'text-warning', word: 'is undone' },
  undone: { icon: RotateCcw, tone: 'text-quiet' },
  // what came to an address for programs
  taken: { icon: CheckCheck, tone: 'text-success' },
  repeated: { icon: RotateCcw, tone: 'text-quiet', word: 'came again' },
  ignored: { icon: Minus, tone: 'text-quiet' },
  'not genuine': { icon: KeyRound, tone: 'text-error', word: 'does not show who sent it' },
  'not readable': { icon: TriangleAlert, tone: 'text-error' },
  'not valid': { icon: TriangleAlert, tone: 'text-error', word: 'not taken' },
  closed: { icon: Pause, tone: 'text-warning', word: 'came while it was paused' },
  sample: { icon: CircleDashed, tone: 'text-info', word: 'kept as an example' },
  // connections
  connected: { icon: Plug, tone: 'text-success' },
  'not tried': { icon: CircleDashed, tone: 'text-quiet', word: 'not tried yet' },
  failing: { icon: RotateCcw, tone: 'text-warning', word: 'failing, tried again' },
  'not working': { icon: TriangleAlert, tone: 'text-error' },
  'credentials refused': { icon: KeyRound, tone: 'text-error' },
  'access not granted yet': { icon: KeyRound, tone: 'text-brass' },
  // confirmations and mails
  pending: { icon: MailQuestionMark, tone: 'text-secondary' },
  sent: { icon: CheckCheck, tone: 'text-success' },
  // a draft over many samples
  'would be held': { icon: Hand, tone: 'text-error' },
  'may be refused': { icon: Ban, tone: 'text-error' },
  'changes somebody': { icon: PencilLine, tone: 'text-warning' },
  'differs from live': { icon: CircleDashed, tone: 'text-info' },
  'as meant': { icon: CheckCheck, tone: 'text-success' },
  // live rehearsals
  proved: { icon: CheckCheck, tone: 'text-success' },
  accepted: { icon: CheckCheck, tone: 'text-info', word: 'accepted, not looked at' },
  stale: { icon: Hourglass, tone: 'text-warning', word: 'was proved' },
  'not proved': { icon: TriangleAlert, tone: 'text-error' },
  'left out': { icon: Minus, tone: 'text-quiet' },
  // findings
  blocker: { icon: Hand, tone: 'text-error' },
  warning: { icon: TriangleAlert, tone: 'text-warning' },
  'accepted warning': { icon: CheckCheck, tone: 'text-quiet', word: 'let stand:' },
  hint: { icon: CircleDashed, tone: 'text-quiet' },
};

/** The word for a state. */
export const stateWord = (state: string): string => MARKS[state]?.word ?? state;

export function StateMark({
  state,
  iconOnly = false,
}: {
  state: string;
  /** Where there is no room for the word: it is read aloud, and shown on hover. */
  iconOnly?: boolean;
}) {
  const { icon: Icon, tone, word } = MARKS[state] ?? { icon: CircleDashed, tone: 'text-quiet' };
  return (
    <span
      className={`inline-flex items-baseline gap-1.5 whitespace-nowrap ${tone}`}
      {...(iconOnly ? { title: word ?? state } : {})}
    >
      <Icon size={15} aria-hidden="true" className="shrink-0 self-center" />
      <span className={iconOnly ? 'sr-only' : ''}>{word ?? state}</span>
    </span>
  );
}
