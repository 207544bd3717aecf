import type { ChatBegun, ChatView } from '../../contract/chat.ts';
import type { ChatInput } from '../../core/chat/index.ts';
import { begin, submitConversation, goOn, say } from '../chatting/conversations.ts';
import type { Actor } from '../commands/command.ts';
import { giveBack, reply, takeOver } from '../commands/chats/talk.ts';
import type { Context } from '../context.ts';
import { sha256 } from '../security/tokens.ts';
import { breakOff, findByToken } from '../store/chats.ts';
import { DAY_MS } from '../store/figures.ts';
import type { SourceRecord } from '../store/sources.ts';
import type { Happening, SetClock, Talk } from './happenings.ts';
import { pick, type Invented } from './people.ts';

const DAYS = 33;
const MINUTE_MS = 60_000;

const QUESTIONS: [question: string, answer: string][] = [
  ['Do you have stairs?', 'Twelve steps to the dome. The small telescope is on the lawn, without any.'],
  ['May dogs come along?', 'To the lawn, on a lead. The dome is too narrow for them.'],
  ['Is it warm in the dome?', 'As warm as the night: bring a coat, also in July.'],
  ['Can we bring a telescope?', 'Please do. There are places with power along the wall.'],
];

/** What visitors talked about in the chat of the site in the weeks before, as it ended or broke off. */
export function inventTalks(
  people: Invented[],
  source: SourceRecord,
  siteUrl: string,
  now: number,
  random: () => number,
): Happening[] {
  return people.map((person, index): Happening => {
    const finished = index % 4 !== 1;
    return {
      at: Math.round(now - 65 * MINUTE_MS - random() * DAYS * DAY_MS),
      source,
      page: `${siteUrl}${pick(['/', '/visit', '/evenings'], random)}`,
      person,
      payload: { kind: 'entries', entries: [], files: [] },
      talk: {
        topic: pick(['An evening here', 'The Sky letter', 'Something else'], random),
        question: pick(QUESTIONS, random),
        agrees: random() < 0.7,
        leavesAfter: finished ? Infinity : index % 8 === 1 ? 1 : 3,
        isAnswered: random() < 0.6,
      },
      confirmsAfter: finished && random() < 0.8 ? pick([8, 20, 50], random) * MINUTE_MS : null,
    };
  });
}

/** Lets a conversation happen through the very pieces that do it live. @returns the id of the submission that it became; '' for none */
export async function talkThrough(
  context: Context,
  clock: SetClock,
  { source, page, person, talk }: Happening & { talk: Talk },
  colleague: Actor,
): Promise<string> {
  const { live, liveVersion } = source;
  if (live?.kind !== 'chat' || liveVersion === null) throw new Error('the demo chat is not live');
  const pass = (seconds: number) => clock.set(context.now() + seconds * 1000);
  const begins = {
    page,
    referrer: '',
    sign: '',
    variant: '',
    userAgent: 'Mozilla/5.0 (Mobile; rv:150.0)',
    acceptLanguage: 'en',
  };
  const begun: ChatBegun = await begin(context, { ...source, live, liveVersion }, begins);
  const { token } = begun;
  const { id } = await conversation(context, token);
  let view: ChatView | null = begun;
  for (let said = 0; view && view.awaits.kind !== 'nothing' && said < talk.leavesAfter; said += 1) {
    pass(15);
    view = await say(context, token, { id: `demo said ${said}`, input: answerTo(view, talk, person), after: 0 });
    if (view?.status !== 'wanted') continue;
    pass(40);
    if (talk.isAnswered) {
      await takeOver(colleague, context, id);
      await reply(colleague, context, { id, text: talk.question[1] });
      pass(30);
      await giveBack(context, id);
    } else {
      pass(30);
      await goOn(context, id, 'nobody came');
    }
    view = await say(context, token, { id: 'demo after', input: { kind: 'text', text: nameOf(person) }, after: 0 });
  }
  if (view && view.awaits.kind !== 'nothing') {
    pass(live.breaksOffMinutes * 60 + 1);
    if (await breakOff(context.store.db, id, context.now())) await submitConversation(context, id);
  }
  return (await conversation(context, token)).submissionId ?? '';
}

const nameOf = ({ given, family }: Invented): string => `${given} ${family}`;

async function conversation({ store }: Context, token: string) {
  const record = await findByToken(store.db, sha256(token));
  if (!record) throw new Error('a conversation of the demo is missing');
  return record;
}

/** What somebody answers to what they are asked. */
function answerTo({ awaits }: ChatView, talk: Talk, person: Invented): ChatInput {
  const text = (words: string): ChatInput => ({ kind: 'text', text: words });
  if (awaits.kind === 'consent') return { kind: 'consent', yes: talk.agrees };
  if (awaits.kind === 'choice') return text(awaits.choices.includes(talk.topic) ? talk.topic : 'Yes, please');
  if (awaits.kind === 'text' && awaits.type === 'email') return text(person.email);
  return text(awaits.kind === 'text' && awaits.type === 'long text' ? talk.question[0] : nameOf(person));
}
