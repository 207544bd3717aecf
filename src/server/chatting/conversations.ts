import { REFERRER_FIELD, PAGE_FIELD, VARIANT_FIELD, withVariant, type FormLanguage } from '../../core/forms/index.ts';
import {
  afterColleague,
  allSteps,
  answerChat,
  awaited,
  beginChat,
  fieldsFilledBy,
  toldColleague,
  type ChatFacts,
  type ChatInput,
  type ChatState,
  type ChatTurn,
} from '../../core/chat/index.ts';
import { readVisit, type ChatDocument, type Entries } from '../../core/intake/index.ts';
import type { AwaitedView, ChatBegun, ChatLineView, ChatView } from '../../contract/chat.ts';
import { chatLineIn, issuesIn, languageOf, unfitIn } from '../../forms/index.ts';
import type { Context } from '../context.ts';
import { deviceOf } from '../intake/device.ts';
import { tooLargeIssue } from '../intake/programBody.ts';
import { takeSubmission } from '../intake/take.ts';
import { knownBySign } from '../intake/visitors.ts';
import { newToken, sha256 } from '../security/tokens.ts';
import {
  addConversation,
  addLines,
  findByToken,
  findConversation,
  moveConversation,
  readLines,
  type ChatLineRecord,
  type ConversationRecord,
} from '../store/chats.ts';
import { noteEvents, visitColumns } from '../store/counting.ts';
import { inTransaction, type Db } from '../store/database.ts';
import { readKnowledge } from '../store/knowledge.ts';
import { addMails, adoptMails, type NewMail } from '../store/mails.ts';
import { readSourceVersion, type SourceRecord } from '../store/sources.ts';
import { assignUploads } from '../store/uploads.ts';

/** So many lines are shown at once. */
const MOST_LINES = 500;
/** A conversation that is longer than this ends: nobody talks so long with a script. */
const MOST_LINES_ALL = 1_000;
const MINUTE_MS = 60_000;

/** What a page says of its visitor when a conversation begins. */
export interface Begins {
  page: string;
  referrer: string;
  sign: string;
  /** Which of its variants the page shows; '' for none. */
  variant: string;
  userAgent: string;
  acceptLanguage: string;
}

type Chat = SourceRecord & { live: ChatDocument; liveVersion: number };

/** Begins a conversation on somebody's page. */
export async function begin(context: Context, source: Chat, begins: Begins): Promise<ChatBegun> {
  const { store, newId, now } = context;
  const variant = source.live.variants.some(({ id }) => id === begins.variant) ? begins.variant : '';
  const document = withVariant(source.live, variant);
  const language = languageOf(document, begins.acceptLanguage);
  const turn = beginChat(document, await factsFor(context, store.db, document, language, begins.sign));
  const token = newToken();
  const told: Record<string, string> = {
    [PAGE_FIELD]: begins.page,
    [REFERRER_FIELD]: begins.referrer,
    [VARIANT_FIELD]: variant,
  };
  const visit = readVisit((name) => told[name], {}, deviceOf(begins.userAgent));
  const id = newId();
  const at = now();
  const lines = linesFrom(turn, { conversationId: id, from: 0, at, language });
  const record = {
    id,
    sourceId: source.id,
    sourceVersion: source.liveVersion,
    tokenHash: sha256(token),
    status: statusAfter(turn),
    state: turn.state,
    language,
    visit,
    lines: lines.length,
    wantedUntil: wantedUntil(turn, at),
    startedAt: at,
    touchedAt: at,
    breaksOffMs: document.breaksOffMinutes * MINUTE_MS,
  };
  await inTransaction(store, async (db) => {
    await addConversation(db, record, lines);
    await addMails(db, mailsOf(context, turn, id), at);
    await noteEvents(db, [
      { subject: id, what: 'opened', question: '', sourceId: source.id, at, ...visitColumns(visit) },
    ]);
  });
  if (turn.state.at === null) await submitConversation(context, id);
  const begun = await findConversation(store.db, id);
  if (!begun) throw new Error('a conversation that was begun is missing');
  return { ...(await viewOf(context, begun, 0)), token };
}

/** Takes what a visitor says, once however often their page sends it. @returns null where there is no such conversation */
export async function say(
  context: Context,
  token: string,
  { id: inputId, input, after }: { id: string; input: ChatInput; after: number },
): Promise<ChatView | null> {
  const { store, now } = context;
  const said = await inTransaction(store, async (db) => {
    const record = await findByToken(db, sha256(token), true);
    if (!record) return null;
    if (record.lastInput === inputId) return { record, issues: [], isOver: false };
    const document = await documentOf(db, record);
    const at = now();
    const isFirst = record.lastInput === '';
    const turn =
      record.lines >= MOST_LINES_ALL
        ? { state: { ...record.state, at: null }, lines: [], effects: [], issues: [] }
        : record.status === 'taken'
          ? toldColleague(record.state, input)
          : answerChat(document, record.state, input, await factsFor(context, db, document, record.language, ''));
    if (turn.issues.length > 0)
      return { record, issues: issuesIn(record.language, document, typedIn(input), turn.issues), isOver: false };
    if (record.status === 'broken off')
      await moveConversation(db, record.id, 'was taken up again', { submissionId: null });
    const stillWanted = record.status === 'wanted' ? record.wantedUntil : null;
    // It is kept as long as the conversation is.
    if (input.kind === 'file' && input.file) await assignUploads(db, [input.file.file], record.id);
    await keepTurn(context, db, record, turn, { at, lastInput: inputId, stillWanted });
    const isOver = turn.state.at === null && record.status !== 'ended' && record.status !== 'taken';
    if (isOver) await moveConversation(db, record.id, 'came to its end');
    const event = { subject: record.id, sourceId: record.sourceId, at, ...visitColumns(record.visit) };
    await noteEvents(db, [
      ...(isFirst ? [{ ...event, what: 'started' as const, question: '' }] : []),
      ...answeredNow(document, record.state, turn.state).map((question) => ({
        ...event,
        what: 'answered' as const,
        question,
      })),
    ]);
    return { record, issues: [], isOver };
  });
  if (!said) return null;
  if (said.isOver) await submitConversation(context, said.record.id);
  const left = await findConversation(store.db, said.record.id);
  return left && { ...(await viewOf(context, left, after)), issues: said.issues };
}

/** What was entered, as a form has it. */
const typedIn = (input: ChatInput): Entries => (input.kind === 'form' ? Object.entries(input.entries) : []);

/** What a page is told whose visitor handed over a file that is too large: what is awaited is awaited still. */
export async function refuseFile(
  context: Context,
  token: string,
  { name, after }: { name: string; after: number },
): Promise<ChatView | null> {
  const record = await findByToken(context.store.db, sha256(token));
  if (!record) return null;
  const issue = tooLargeIssue(context, '', name);
  const message = record.language === 'en' ? issue.message : unfitIn(record.language, 'file');
  return { ...(await viewOf(context, record, after)), issues: [{ ...issue, message }] };
}

/** The fields of the step that was waited at, as far as they were answered. */
function answeredNow({ parts }: ChatDocument, before: ChatState, after: ChatState): string[] {
  const found = allSteps(parts).find(({ step }) => step.id === before.at);
  return found ? fieldsFilledBy(found.step).filter((id) => id in after.values) : [];
}

/** Keeps what is said at one go, and does what follows on it outside of the conversation. */
async function keepTurn(
  context: Context,
  db: Db,
  record: ConversationRecord,
  turn: ChatTurn,
  { at, lastInput, stillWanted = null }: { at: number; lastInput?: string; stillWanted?: number | null },
): Promise<void> {
  await addLines(db, record.id, linesFrom(turn, lineBase(record, at)), {
    state: turn.state,
    ...(lastInput === undefined ? {} : { lastInput }),
    touchedAt: at,
    lines: record.lines + turn.lines.length,
    wantedUntil: wantedUntil(turn, at) ?? stillWanted,
  });
  await addMails(db, mailsOf(context, turn, record.id), at);
  if (turn.effects.some(({ kind }) => kind === 'hand over')) await moveConversation(db, record.id, 'wants a colleague');
}

/** The source of a conversation, and whether a file is awaited in it now; null where there is no such conversation. */
export async function sourceOfTalk(
  context: Context,
  token: string,
): Promise<{ sourceId: string; awaitsFile: boolean } | null> {
  const record = await findByToken(context.store.db, sha256(token));
  if (!record) return null;
  const document = await documentOf(context.store.db, record);
  const awaitsFile = record.status !== 'taken' && awaited(document, record.state, document.fields).kind === 'file';
  return { sourceId: record.sourceId, awaitsFile };
}

/** A conversation as the page of its visitor has it. @param after the number of the last line that it knows */
export async function viewByToken(
  context: Context,
  token: string,
  after: number,
): Promise<(ChatView & { id: string }) | null> {
  const record = await findByToken(context.store.db, sha256(token));
  return record && { ...(await viewOf(context, record, after)), id: record.id };
}

async function viewOf({ store }: Context, record: ConversationRecord, after: number): Promise<ChatView> {
  const document = await documentOf(store.db, record);
  return {
    lines: (await readLines(store.db, record.id, after, MOST_LINES)).map(lineView),
    awaits:
      record.status === 'taken'
        ? { kind: 'text', type: 'long text' }
        : awaitedView(awaited(document, record.state, document.fields)),
    status: record.status,
    colleague: record.status === 'taken' ? record.colleague : '',
    issues: [],
  };
}

function awaitedView(awaits: ReturnType<typeof awaited>): AwaitedView {
  if (awaits.kind !== 'form') return awaits;
  return {
    kind: 'form',
    fields: awaits.fields.map(({ key, label, type, options, required }) => ({ key, label, type, options, required })),
  };
}

export const lineView = ({ number, by, name, text, link, at }: ChatLineRecord): ChatLineView => ({
  number,
  by,
  name,
  text,
  link,
  at: new Date(at).toISOString(),
});

/** Published versions never change: those that are talked with are kept. */
const published = new Map<string, ChatDocument>();
const MOST_KEPT = 100;

/** The published chat that a conversation goes by, as the variant that it began with. */
export async function documentOf(
  db: Db,
  { sourceId, sourceVersion, visit }: Pick<ConversationRecord, 'sourceId' | 'sourceVersion' | 'visit'>,
): Promise<ChatDocument> {
  return withVariant(await publishedChat(db, sourceId, sourceVersion), visit.variant ?? '');
}

async function publishedChat(db: Db, sourceId: string, sourceVersion: number): Promise<ChatDocument> {
  const key = `${sourceId} ${sourceVersion}`;
  const kept = published.get(key);
  if (kept) return kept;
  const document = await readSourceVersion(db, sourceId, sourceVersion);
  if (document?.kind !== 'chat') throw new Error('a chat is missing that was published');
  if (published.size >= MOST_KEPT) published.clear();
  published.set(key, document);
  return document;
}

/** @param db in a transaction that transaction itself: who waits for another connection while they hold one may wait for ever */
async function factsFor(
  context: Context,
  db: Db,
  { fields, parts }: ChatDocument,
  language: FormLanguage,
  sign: string,
): Promise<ChatFacts> {
  const decides = allSteps(parts).some(({ step }) => step.kind === 'decide' && step.rules.some(({ when }) => when));
  return {
    fields,
    language,
    known: sign === '' ? {} : await knownBySign(context, sign),
    knowledge: decides ? await readKnowledge(db) : [],
    now: context.now(),
  };
}

const statusAfter = (turn: ChatTurn): ConversationRecord['status'] =>
  turn.state.at === null ? 'ended' : turn.effects.some(({ kind }) => kind === 'hand over') ? 'wanted' : 'talking';

function wantedUntil({ effects }: ChatTurn, at: number): number | null {
  const wanted = effects.find((effect) => effect.kind === 'hand over');
  return wanted?.kind === 'hand over' ? at + wanted.seconds * 1000 : null;
}

interface LineBase {
  conversationId: string;
  /** The number of the line before. */
  from: number;
  at: number;
  language: FormLanguage;
}

export const lineBase = ({ id, lines, language }: ConversationRecord, at: number): LineBase => ({
  conversationId: id,
  from: lines,
  at,
  language,
});

const linesFrom = ({ lines }: ChatTurn, { conversationId, from, at, language }: LineBase): ChatLineRecord[] =>
  lines.map((line, index) => ({
    conversationId,
    number: from + index + 1,
    by: line.by,
    name: '',
    text: chatLineIn(language, line),
    link: line.link ?? null,
    at,
  }));

/** Mails to colleagues: they go out at once, whatever becomes of the conversation. */
const mailsOf = ({ newId }: Context, { effects }: ChatTurn, conversationId: string): NewMail[] =>
  effects.flatMap((effect): NewMail[] =>
    effect.kind !== 'notify' || effect.to.length === 0
      ? []
      : [
          {
            id: newId(),
            kind: 'notify',
            aboutKind: 'conversation',
            confirmationId: null,
            submissionId: conversationId,
            contactId: '',
            routeId: '',
            mailId: '',
            to: effect.to,
            replyTo: '',
            subject: effect.subject.slice(0, 300),
            text: effect.text,
            state: 'queued',
          },
        ],
  );

/** Goes on by itself after a colleague left, or because nobody came. */
export async function goOn(context: Context, id: string, why: 'colleague left' | 'nobody came'): Promise<void> {
  const { store, now } = context;
  const isOver = await inTransaction(store, async (db) => {
    const record = await findConversation(db, id, true);
    if (!record || (record.status !== 'taken' && record.status !== 'wanted')) return false;
    if (why === 'nobody came' && (record.status !== 'wanted' || (record.wantedUntil ?? 0) > now())) return false;
    const document = await documentOf(db, record);
    const facts = await factsFor(context, db, document, record.language, '');
    const turn =
      why === 'nobody came'
        ? answerChat(document, record.state, { kind: 'nobody came' }, facts)
        : afterColleague(document, record.state, facts);
    if (why === 'colleague left') turn.lines.unshift({ by: 'us', text: '', saying: 'colleague left' });
    await moveConversation(db, id, 'was given back');
    await keepTurn(context, db, record, turn, { at: now() });
    if (turn.state.at !== null) return false;
    await moveConversation(db, id, 'came to its end');
    return true;
  });
  if (isOver) await submitConversation(context, id);
}

/** Makes a submission of a conversation that is over: once for each way in which it can be. */
export async function submitConversation(context: Context, id: string): Promise<void> {
  const { store } = context;
  const record = await findConversation(store.db, id);
  if (!record) return;
  const document = await documentOf(store.db, record);
  const finished = record.status === 'ended';
  // Who only opened it has said nothing.
  if (record.lastInput === '') return addLines(store.db, record.id, [], { submissionId: '' });
  const taken = await takeSubmission(context, {
    sourceId: record.sourceId,
    sourceVersion: record.sourceVersion,
    document,
    contentType: 'application/json',
    payload: {
      kind: 'json',
      json: {
        answers: record.state.values,
        finished,
        conversation: record.id,
        [PAGE_FIELD]: record.visit.page ?? '',
        [REFERRER_FIELD]: record.visit.referrer ?? '',
        [VARIANT_FIELD]: record.visit.variant ?? '',
      },
      files: [],
    },
    headers: {},
    idempotencyKey: null,
    name: `chat ${record.id}${finished ? '' : ` ${record.lines}`}`,
    known: {},
    shownAt: null,
  });
  const [submissionId] = taken.ok ? taken.ids : [];
  if (submissionId !== undefined)
    return inTransaction(store, async (db) => {
      await addLines(db, record.id, [], { submissionId });
      await adoptMails(db, record.id, submissionId);
    });
  // It will not be otherwise by itself: what is said of it stays with the conversation.
  context.log.warn({ conversation: record.id }, 'a conversation could not become a submission');
  await addLines(store.db, record.id, [], { submissionId: '' });
}
