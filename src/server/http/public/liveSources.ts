import { isPosted } from '../../../core/intake/index.ts';
import { withPictures } from '../../../core/forms/index.ts';
import type { FieldValues } from '../../../core/values/index.ts';
import type { Context } from '../../context.ts';
import { LiveWirings } from '../../planning/liveWiring.ts';
import { throughBreaks } from '../../store/database.ts';
import { findSourceByPublicId, listSources, type SourceRecord } from '../../store/sources.ts';

/** A published change reaches visitors within this time. */
const CACHE_MS = 1_000;
const MOST_CACHED = 1_000;

/** A source that is live. */
export type LiveSource = SourceRecord & { live: NonNullable<SourceRecord['live']> };

export interface LiveSources {
  /** The live source at a public address; null where there is none. */
  find: (publicId: string) => Promise<LiveSource | null>;
  all: () => Promise<LiveSource[]>;
  /** The address for programs at a public address, live or not; null where there is none, or it is archived. */
  posts: (publicId: string) => Promise<SourceRecord | null>;
  /** Whether a live route has those confirm by a mail who sent these values, unless they did before. */
  isAsked: (sourceId: string, values: FieldValues) => Promise<boolean>;
}

/** A source as visitors meet it; null where it is not live. */
const asMet = (source: SourceRecord, publicUrl: string): LiveSource | null => {
  const { state, live, archivedAt } = source;
  if (state !== 'live' || live === null || archivedAt !== null) return null;
  // A file is brought by somebody who is signed in, and a shop tells its own address of ours.
  if (live.kind === 'file' || live.kind === 'shop') return null;
  return { ...source, live: live.kind === 'form' ? withPictures(live, publicUrl) : live };
};

/** What is live, as visitors meet it: read from the database at most once a second. */
export function liveSources({ store, config }: Context): LiveSources {
  // By a clock that cannot be put back: what is published would stay away until the old time comes again.
  const now = () => performance.now();
  const cache = new Map<string, { source: LiveSource | null; posts: SourceRecord | null; until: number }>();
  let list: { sources: LiveSource[]; until: number } = { sources: [], until: 0 };
  const read = async (publicId: string) => {
    const cached = cache.get(publicId);
    if (cached && cached.until > now()) return cached;
    let found: SourceRecord | null;
    try {
      const ask = () => findSourceByPublicId(store.db, publicId);
      found = await (cached ? ask() : throughBreaks(ask));
    } catch (error) {
      // While the database is away, what was live a moment ago is.
      if (cached) return cached;
      throw error;
    }
    const source = found && asMet(found, config.publicUrl);
    const posts = found && isPosted(found.draft) && found.archivedAt === null ? found : null;
    if (cache.size > MOST_CACHED) cache.clear();
    const fresh = { source, posts, until: now() + CACHE_MS };
    cache.set(publicId, fresh);
    return fresh;
  };
  const wirings = new LiveWirings(store);
  const asking = new Map<string, { boxes: string[]; until: number }>();
  const boxesThatAsk = async (sourceId: string): Promise<string[]> => {
    const cached = asking.get(sourceId);
    if (cached && cached.until > now()) return cached.boxes;
    const boxes = await wirings.boxesThatAsk(sourceId).catch((error: unknown) => {
      if (cached) return cached.boxes;
      throw error;
    });
    if (asking.size > MOST_CACHED) asking.clear();
    asking.set(sourceId, { boxes, until: now() + CACHE_MS });
    return boxes;
  };
  return {
    isAsked: async (sourceId, values) =>
      (await boxesThatAsk(sourceId)).some((box) => box === '' || values[box] === true),
    find: async (publicId) => (await read(publicId)).source,
    posts: async (publicId) => (await read(publicId)).posts,
    all: async () => {
      if (list.until <= now())
        list = {
          sources: (await listSources(store.db)).flatMap((source) => asMet(source, config.publicUrl) ?? []),
          until: now() + CACHE_MS,
        };
      return list.sources;
    },
  };
}
