import { Hono } from 'hono';
import {
  ChatReplyInput,
  ChatSearchInput,
  MOST_CONVERSATIONS,
  type FoundConversation,
  type ConversationRow,
  type ConversationView,
} from '../../../contract/chat.ts';
import type { Page } from '../../../contract/pages.ts';
import { isoTime } from '../../../core/isoTime.ts';
import type { ChatStatus } from '../../../core/states/index.ts';
import { isFile, printValue } from '../../../core/values/index.ts';
import { documentOf, lineView } from '../../chatting/conversations.ts';
import type { ChatWatch } from '../../chatting/watch.ts';
import { endTalk, giveBack, reply, takeOver } from '../../commands/chats/talk.ts';
import type { Context } from '../../context.ts';
import {
  conversationOf,
  findConversation,
  listConversations,
  readLines,
  searchConversations,
  type ConversationRecord,
} from '../../store/chats.ts';
import { readSourceName } from '../../store/sources.ts';
import { allow, type Session } from '../gates.ts';
import { isStillIn } from './session.ts';
import { outcome } from '../outcome.ts';
import { cursor, moment, notFound, Problem, readInput } from '../problems.ts';
import { sendEvents } from '../sse.ts';

const MOST_LINES = 1_000;
const EARLIER_TOGETHER = 100;
const OPEN: ChatStatus[] = ['talking', 'wanted', 'taken'];

/** Conversations that visitors have: looked at, and taken over. */
export function conversationRoutes(context: Context, watch: ChatWatch): Hono<Session> {
  const app = new Hono<Session>();
  const { store } = context;

  /** Those first that wait for somebody, however long ago anything was said in them; then the last touched. */
  const rows = async (which: string): Promise<ConversationRow[]> => {
    const [wanted, all] = await Promise.all([
      listConversations(store.db, ['wanted'], MOST_CONVERSATIONS),
      listConversations(store.db, which === 'all' ? [] : OPEN, MOST_CONVERSATIONS),
    ]);
    return [...wanted, ...all.filter(({ conversation }) => conversation.status !== 'wanted')]
      .slice(0, MOST_CONVERSATIONS)
      .map(({ conversation, sourceName, last }) => toRow(conversation, sourceName, last ?? ''));
  };

  async function view(id: string): Promise<ConversationView | null> {
    const record = await findConversation(store.db, id);
    if (!record) return null;
    const { fields } = await documentOf(store.db, record);
    const said = (await readLines(store.db, id, 0, MOST_LINES)).map(lineView);
    return {
      ...toRow(record, await readSourceName(store.db, record.sourceId), said.at(-1)?.text ?? ''),
      said,
      answers: fields.flatMap(({ id: field, label }) => {
        const value = record.state.values[field];
        if (value === undefined) return [];
        return [
          isFile(value)
            ? { label, value: value.name, link: value.link }
            : { label, value: printValue(value), link: '' },
        ];
      }),
    };
  }
  async function must(id: string): Promise<ConversationView> {
    const found = await view(id);
    if (!found) throw notFound('conversation');
    return found;
  }

  app.get('/', allow('people:read'), async (c) => c.json(await rows(c.req.query('which') ?? 'open')));
  /** Those that were last touched before one, a page at a time. */
  app.get('/earlier', allow('people:read'), async (c) => {
    const [at, id] = (c.req.query('before') ?? '').split('_');
    const after = at && cursor(id) ? { touchedAt: moment(at), id: id ?? '' } : null;
    if (!after) throw new Problem(422, 'invalid', 'It is not said after which conversation the list goes on.');
    const statuses = c.req.query('which') === 'all' ? [] : OPEN;
    const found = await listConversations(store.db, statuses, EARLIER_TOGETHER, after);
    const last = found.at(-1)?.conversation;
    return c.json({
      rows: found.map((one) => toRow(one.conversation, one.sourceName, one.last ?? '')),
      next: last && found.length === EARLIER_TOGETHER ? `${last.touchedAt}_${last.id}` : null,
    } satisfies Page<ConversationRow>);
  });
  /** Those in which somebody said something, a part of all at a time. */
  app.post('/search', allow('people:read'), async (c) => {
    const { text, before } = await readInput(c, ChatSearchInput);
    const words = text.split(/\s+/).filter((word) => word !== '');
    if (words.length === 0 || (before !== '' && !cursor(before)))
      throw new Problem(422, 'invalid', 'Say what to look for.', [
        { pointer: '/text', detail: 'Write at least two letters.' },
      ]);
    const { found, next, looked } = await searchConversations(store.db, words, before || null);
    return c.json({
      rows: found.map(({ conversation, sourceName, line }) => {
        const { by, name, text: said, at } = lineView(line);
        return { ...toRow(conversation, sourceName, said), line: { by, name, text: said, at } };
      }),
      next,
      ...(looked === null ? {} : { looked }),
    } satisfies Page<FoundConversation>);
  });
  app.get('/stream', allow('people:read'), (c) => {
    const which = c.req.query('which') ?? 'open';
    let before = '';
    return sendEvents(
      c,
      (wake) => watch.follow('', wake),
      async () => {
        const found = await rows(which);
        const text = JSON.stringify(found);
        if (text === before) return null;
        before = text;
        return { id: String(context.now()), data: found };
      },
      () => isStillIn(context, c),
    );
  });
  app.get('/of/:submission', allow('people:read'), async (c) => {
    const record = await conversationOf(store.db, c.req.param('submission'));
    return c.json(record ? await view(record.id) : null);
  });
  app.get('/:id', allow('people:read'), async (c) => c.json(await must(c.req.param('id'))));
  app.get('/:id/stream', allow('people:read'), async (c) => {
    const { id } = await must(c.req.param('id'));
    let before = '';
    return sendEvents(
      c,
      (wake) => watch.follow(id, wake),
      async () => {
        const found = await view(id);
        const text = JSON.stringify(found);
        if (!found || text === before) return null;
        before = text;
        return { id: String(found.lines), data: found };
      },
      () => isStillIn(context, c),
    );
  });

  app.post('/:id/take', allow('people:act'), async (c) => {
    outcome(await takeOver(c.get('actor'), context, c.req.param('id')));
    return c.json(await must(c.req.param('id')));
  });
  app.post('/:id/say', allow('people:act'), async (c) => {
    const { text } = await readInput(c, ChatReplyInput);
    outcome(await reply(c.get('actor'), context, { id: c.req.param('id'), text }));
    return c.json(await must(c.req.param('id')));
  });
  app.post('/:id/give-back', allow('people:act'), async (c) => {
    outcome(await giveBack(context, c.req.param('id')));
    return c.json(await must(c.req.param('id')));
  });
  app.post('/:id/end', allow('people:act'), async (c) => {
    outcome(await endTalk(c.get('actor'), context, c.req.param('id')));
    return c.json(await must(c.req.param('id')));
  });
  return app;
}

const toRow = (
  {
    id,
    sourceId,
    status,
    colleague,
    startedAt,
    touchedAt,
    wantedUntil,
    visit,
    lines,
    submissionId,
  }: ConversationRecord,
  sourceName: string,
  last: string,
): ConversationRow => ({
  id,
  sourceId,
  sourceName,
  status,
  colleague,
  startedAt: new Date(startedAt).toISOString(),
  touchedAt: new Date(touchedAt).toISOString(),
  wantedUntil: isoTime(wantedUntil),
  page: visit.page ?? '',
  lines,
  last,
  submissionId: submissionId === '' ? null : submissionId,
});
