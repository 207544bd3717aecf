import { Hono, type Context as HonoContext } from 'hono';
import { bodyLimit } from 'hono/body-limit';
import { check } from '../../../contract/checks.ts';
import { ChatBeginInput, ChatSayInput, type ChatFace } from '../../../contract/chat.ts';
import type { ChatInput } from '../../../core/chat/index.ts';
import type { ChatDocument } from '../../../core/intake/index.ts';
import { withVariant } from '../../../core/forms/index.ts';
import { withoutControls } from '../../../core/values/index.ts';
import { isObject, type Loose } from '../../../core/documents/index.ts';
import { parseJson } from '../../../core/json/index.ts';
import { languageOf, wordsIn } from '../../../forms/index.ts';
import { begin, refuseFile, say, viewByToken } from '../../chatting/conversations.ts';
import type { ChatWatch } from '../../chatting/watch.ts';
import type { Context } from '../../context.ts';
import { Problem, problemResponse, tooLarge } from '../problems.ts';
import { readChatFile, TOLD_TIMES } from './chatFile.ts';
import { keepToHttps } from '../safeHeaders.ts';
import { sendEvents } from '../sse.ts';
import { visitorAddress } from '../visitor.ts';
import type { LiveSource, LiveSources } from './liveSources.ts';
import { allowOrigin, isAllowedOrigin, originOf } from './origins.ts';
import { Pace, tooOften } from './pace.ts';

const BODY_LIMIT_BYTES = 16 * 1024;
const DEEPEST_BODY = 10;
/** So often as one visitor sends a form, they may say something in a chat. */
const SAYS = 6;
/** So many pages may follow one conversation at a time, and so many those of one address, behind which a whole office may be. */
const MOST_OF_ONE = 6;
const MOST_OF_ADDRESS = 200;

const GONE = () => new Problem(404, 'not-found', 'There is no such conversation here.');

/** Where visitors' pages have conversations. What is said is in bodies, since addresses are kept by many. */
export function chatRoutes(context: Context, live: LiveSources, watch: ChatWatch, perMinute: number): Hono {
  const app = new Hono();
  const { config } = context;
  const paces = { begin: new Pace(perMinute), say: new Pace(SAYS * perMinute) };
  const followed = new Tally(MOST_OF_ONE);
  const followers = new Tally(MOST_OF_ADDRESS);
  const onError = () => problemResponse(tooLarge('This is too much.'));
  const limits = {
    words: bodyLimit({ maxSize: BODY_LIMIT_BYTES, onError }),
    file: bodyLimit({ maxSize: BODY_LIMIT_BYTES + TOLD_TIMES * config.uploadBytes, onError }),
  };
  app.use((c, next) => (c.req.path.endsWith('/file') ? limits.file : limits.words)(c, next));
  app.use(async (c, next) => {
    allowOrigin(c);
    c.header('x-content-type-options', 'nosniff');
    keepToHttps(c, config.publicUrl);
    await next();
    c.header('cache-control', 'no-store');
  });

  async function chatAt(c: HonoContext): Promise<(LiveSource & { live: ChatDocument }) | null> {
    const source = await live.find(c.req.param('chat') ?? '');
    if (source?.live.kind !== 'chat' || !isAllowedOrigin(source.live, originOf(c), config.publicUrl)) return null;
    return source as LiveSource & { live: ChatDocument };
  }
  // As plain text, since that asks nobody's leave beforehand (WHATWG Fetch, 4.8: CORS-safelisted).
  const bodyOf = async (c: HonoContext): Promise<Loose> => {
    const json = parseJson(await c.req.text(), DEEPEST_BODY);
    return isObject(json) ? json : {};
  };
  const afterIn = ({ after }: Loose): number => (Number.isInteger(after) ? Math.max(0, Number(after)) : 0);
  const tokenIn = ({ token }: Loose): string => (typeof token === 'string' ? token.slice(0, 100) : '');

  app.get('/:chat/face', async (c) => {
    const source = await chatAt(c);
    if (!source) return problemResponse(GONE());
    const shown = withVariant(source.live, c.req.query('variant') ?? '');
    return c.json(faceOf(shown, c.req.header('accept-language') ?? ''));
  });

  app.post('/:chat', async (c) => {
    const wait = await paces.begin.wait(visitorAddress(c, config.trustedProxies));
    if (wait !== null) return problemResponse(tooOften(wait));
    const source = await chatAt(c);
    const read = check(ChatBeginInput, await bodyOf(c));
    if (!source || !read.ok) return problemResponse(GONE());
    const begun = await begin(
      context,
      { ...source, live: source.live, liveVersion: source.liveVersion ?? 0 },
      {
        page: read.value.page,
        referrer: read.value.referrer,
        sign: read.value.sign,
        variant: read.value.variant,
        userAgent: c.req.header('user-agent') ?? '',
        acceptLanguage: c.req.header('accept-language') ?? '',
      },
    );
    return c.json(begun, 201);
  });

  app.post('/:chat/say', async (c) => {
    const wait = await paces.say.wait(visitorAddress(c, config.trustedProxies));
    if (wait !== null) return problemResponse(tooOften(wait));
    const body = await bodyOf(c);
    const read = check(ChatSayInput, { id: body.id, said: body.said });
    if (!read.ok) return problemResponse(new Problem(422, 'invalid', 'That could not be read.', read.issues));
    const { id, said } = read.value;
    const view = await say(context, tokenIn(body), { id, input: inputOf(said), after: afterIn(body) });
    return view ? c.json(view) : problemResponse(GONE());
  });

  /** A file that was asked for: form data, in which the file comes last. */
  app.post('/:chat/file', async (c) => {
    const wait = await paces.say.wait(visitorAddress(c, config.trustedProxies));
    if (wait !== null) return problemResponse(tooOften(wait));
    const sent = await readChatFile(context, c);
    if (sent === null) return problemResponse(GONE());
    const { token, id, after, file } = sent;
    const view =
      file === 'too large'
        ? await refuseFile(context, token, { name: sent.name, after })
        : await say(context, token, { id, input: { kind: 'file', file }, after });
    return view ? c.json(view) : problemResponse(GONE());
  });

  app.post('/:chat/look', async (c) => {
    const wait = await paces.say.wait(visitorAddress(c, config.trustedProxies));
    if (wait !== null) return problemResponse(tooOften(wait));
    const body = await bodyOf(c);
    const view = await viewByToken(context, tokenIn(body), afterIn(body));
    return view ? c.json(view) : problemResponse(GONE());
  });

  /** What is said from now on, while a colleague is awaited or there. */
  app.post('/:chat/stream', async (c) => {
    const body = await bodyOf(c);
    const token = tokenIn(body);
    const known = await viewByToken(context, token, afterIn(body));
    if (!known) return problemResponse(GONE());
    const address = visitorAddress(c, config.trustedProxies);
    if (followed.isFull(known.id) || followers.isFull(address)) return problemResponse(tooOften(60));
    followed.add(known.id);
    followers.add(address);
    let after = afterIn(body);
    let before = '';
    return sendEvents(
      c,
      (wake) => {
        const stop = watch.follow(known.id, wake);
        return () => {
          stop();
          followed.take(known.id);
          followers.take(address);
        };
      },
      async () => {
        const view = await viewByToken(context, token, after);
        if (!view) return null;
        after = view.lines.at(-1)?.number ?? after;
        const { id: _, ...shown } = view;
        const text = JSON.stringify({ ...shown, lines: [] });
        if (view.lines.length === 0 && text === before) return null;
        before = text;
        return { id: String(after), data: shown };
      },
    );
  });
  return app;
}

/** What was said, as far as it is something that can be. */
function inputOf({ kind, text = '', yes = false, entries = {} }: ChatSayInput['said']): ChatInput {
  if (kind === 'consent') return { kind, yes };
  if (kind === 'text') return { kind, text: withoutControls(text) };
  return {
    kind,
    entries: Object.fromEntries(
      Object.entries(entries).flatMap(([name, value]) =>
        typeof value === 'string' ? [[name, value.slice(0, 2_000)]] : [],
      ),
    ),
  };
}

const FACE_WORDS = [
  'here',
  'send',
  'open',
  'close',
  'agree',
  'disagree',
  'waiting',
  'joined',
  'lost',
  'ended',
  'anew',
  'file',
  'without',
];

function faceOf(document: ChatDocument, accepted: string): ChatFace {
  const { title, launcher, look } = document;
  const language = languageOf(document, accepted);
  const say = wordsIn(language);
  const { action, onAction, ink, ground, line, quiet } = look.colours;
  return {
    title,
    launcher,
    language,
    colours: { action, onAction, ink, ground, line, quiet },
    radius: look.radius,
    // What is put in is put in by the page.
    words: Object.fromEntries(FACE_WORDS.map((name) => [name, say(`chat.${name}`, { name: '{name}' })])),
  };
}

/** How many there are of each at the moment. */
class Tally {
  readonly #most: number;
  readonly #counts = new Map<string, number>();

  constructor(most: number) {
    this.#most = most;
  }

  isFull(key: string): boolean {
    return (this.#counts.get(key) ?? 0) >= this.#most;
  }

  add(key: string): void {
    this.#counts.set(key, (this.#counts.get(key) ?? 0) + 1);
  }

  take(key: string): void {
    const left = (this.#counts.get(key) ?? 1) - 1;
    if (left > 0) this.#counts.set(key, left);
    else this.#counts.delete(key);
  }
}
