import type { FeedInput } from '../../../contract/imports.ts';
import { good, type Result } from '../../../core/result.ts';
import type { Context } from '../../context.ts';
import { findFeed, hurryFeed, removeFeed, setFeed } from '../../store/feeds.ts';
import { findSource } from '../../store/sources.ts';
import { done, inCommand, refused, unknown, type Actor, type Refusal } from '../command.ts';

/** Says how files come to a source by themselves. */
export function changeFeed(
  actor: Actor,
  context: Context,
  { sourceId, input }: { sourceId: string; input: FeedInput },
): Promise<Result<void, Refusal>> {
  const { by, everyMinutes, takes, perMinute, agreed, words, where } = input;
  return inCommand(context, actor, async (db) => {
    const source = await findSource(db, sourceId);
    if (source?.draft.kind !== 'file') return unknown('source of files');
    const kept = await findFeed(db, sourceId);
    const known = kept?.by === 'address' ? kept.address : '';
    const typed = readAddress(input.address);
    if (by === 'address' && !typed.ok && (input.address.trim() !== '' || known === '')) return typed;
    const address = by === 'folder' ? '' : typed.ok ? context.secrets.seal(typed.value) : known;
    const evidence = agreed === 'no' ? { agreed, words: '', where: '', when: '' } : { agreed, words, where, when: '' };
    await setFeed(db, { sourceId, by, address, everyMinutes, takes, evidence, perMinute, dueAt: context.now() });
    const subject = { kind: 'source' as const, id: sourceId, name: source.name };
    return done(undefined, { act: 'set the feed of', subject, detail: by });
  });
}

/** A web address at which a file is; a user and a password may stand in it. */
function readAddress(typed: string): Result<string, Refusal> {
  const text = typed.trim();
  const wrong = (detail: string) => refused('invalid', 'invalid', detail, [{ pointer: '/address', detail }]);
  if (text === '') return wrong('Enter the address of the file.');
  if (!URL.canParse(text)) return wrong('The address cannot be read. It begins with https://.');
  const { protocol, href } = new URL(text);
  return protocol === 'https:' || protocol === 'http:' ? good(href) : wrong('The address has to begin with https://.');
}

/** Has no more files come to a source by themselves. */
export const endFeed = (actor: Actor, context: Context, sourceId: string): Promise<Result<void, Refusal>> =>
  inCommand(context, actor, async (db) => {
    const source = await findSource(db, sourceId);
    if (!source || !(await findFeed(db, sourceId))) return unknown('way by which files come');
    await removeFeed(db, sourceId);
    return done(undefined, { act: 'ended the feed of', subject: { kind: 'source', id: sourceId, name: source.name } });
  });

/** Has it looked at now whether there is a file. */
export const lookNow = (actor: Actor, context: Context, sourceId: string): Promise<Result<void, Refusal>> =>
  inCommand(context, actor, async (db) => {
    const source = await findSource(db, sourceId);
    if (!source || !(await hurryFeed(db, sourceId, context.now()))) return unknown('way by which files come');
    if (source.state !== 'live')
      return refused('conflict', 'not-live', 'Files come by themselves while the source is live.');
    return done(undefined, null);
  });
