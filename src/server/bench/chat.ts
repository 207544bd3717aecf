import { readFileSync } from 'node:fs';
import { Agent, request } from 'undici';
import type { ChatBegun } from '../../contract/chat.ts';
import { frontDeskChat } from '../demo/chat.ts';
import { addSource, findSource, publishSource } from '../store/sources.ts';
import { startServers } from './besideBare.ts';
import { compare, perSecond } from './compare.ts';
import { benchSetting } from './setting.ts';

const CONVERSATIONS = 1_000;
const AT_ONCE = 24;
const ROUNDS = 3;
const SITE = 'https://pellam-ridge.example';

/**
 * A thousand conversations at once, each with its stream open: how many answers are taken a second, against a bare handler with one INSERT,
 * and how much memory of the server a conversation takes.
 */
export async function printChat(): Promise<void> {
  const { context } = await benchSetting();
  const { store, now, newId } = context;
  const id = newId();
  await addSource(store.db, {
    id,
    publicId: 'bench-chat',
    name: 'Chat',
    draft: frontDeskChat(SITE, newId),
    now: now(),
  });
  const unpublished = await findSource(store.db, id);
  if (unpublished) await publishSource(store.db, unpublished, now());
  const servers = await startServers(context);
  const [dispatcher, streams] = [
    new Agent({ connections: AT_ONCE, headersTimeout: 10_000 }),
    new Agent({ connections: CONVERSATIONS, headersTimeout: 10_000 }),
  ];
  const headers = { origin: SITE };
  const post = async (url: string, body: object): Promise<unknown> => {
    const response = await request(url, { method: 'POST', dispatcher, headers, body: JSON.stringify(body) });
    if (response.statusCode >= 300) throw new Error(`${url} answered ${response.statusCode}`);
    return response.body.text().then((text) => (text === '' ? null : (JSON.parse(text) as unknown)));
  };
  const chat = `${servers.iwashi}/chat/bench-chat`;
  const tokens: string[] = [];
  const begin = async () => {
    const { token } = (await post(chat, { page: `${SITE}/visit`, referrer: '' })) as ChatBegun;
    tokens.push(token);
  };
  await perSecond(AT_ONCE, AT_ONCE, begin);
  const before = residentOf(servers.pid);
  await perSecond(CONVERSATIONS - AT_ONCE, AT_ONCE, begin);
  const open = await Promise.all(
    tokens.map(async (token, at) => {
      const body = JSON.stringify({ token, after: 0 });
      const stream = await request(`${chat}/stream`, {
        method: 'POST',
        dispatcher: streams,
        // Each from an address of its own.
        headers: { ...headers, 'x-forwarded-for': `10.0.${at >> 8}.${at & 255}` },
        body,
      });
      if (stream.statusCode !== 200) throw new Error(`a stream answered ${stream.statusCode}`);
      stream.body.on('data', () => {});
      stream.body.on('error', () => {});
      return stream.body;
    }),
  );
  const after = residentOf(servers.pid);
  const answers = ['The Sky letter', 'Mara Quill', 'not an address', 'nor this'];
  let round = -1;
  const { ratio, iwashi, reference } = await compare('answers a second', ROUNDS, {
    reference: () =>
      perSecond(CONVERSATIONS, AT_ONCE, () => post(servers.reference, { said: 'The Sky letter' }).then(() => {})),
    iwashi: () => {
      round += 1;
      const text = answers[round] ?? '';
      return perSecond(CONVERSATIONS, AT_ONCE, async (at) => {
        await post(`${chat}/say`, {
          token: tokens[at],
          id: `bench-said-${round}`,
          said: { kind: 'text', text },
          after: 0,
        });
      });
    },
  });
  for (const body of open) body.destroy();
  await Promise.all([dispatcher.destroy(), streams.destroy()]);
  await servers.stop();
  const kilobytes = (after - before) / (CONVERSATIONS - AT_ONCE);
  console.log(
    `chat     ${ratio.toFixed(2)}  ${Math.round(iwashi)} against ${Math.round(reference)} a second  answers taken in ${CONVERSATIONS} conversations at once, each with its stream open, against a bare handler with one INSERT; ${kilobytes.toFixed(1)} kB of the server's memory for each`,
  );
}

/** Memory of a process that is in use, in kB (proc_pid_status(5), VmRSS). */
const residentOf = (pid: number): number =>
  Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))?.[1] ?? 0);
