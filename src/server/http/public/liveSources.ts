import { isPosted } from '../../../core/intake/index.ts';
import { withPictures } from '../../../core/forms/index.ts';
import type { FieldValues } from '../../../core/values/index.ts';
import type { Context } from '../../context.ts';
import { PlanningContexts } from '../../planning/planningContexts.ts';
import { retryWhileUnavailable } from '../../store/database.ts';
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
  let list: { sources: LiveSource[]; until: number } = { sources: [], until: 0 };
  const read = keptForAWhile(now, async (publicId) => {
    const found = await findSourceByPublicId(store.db, publicId);
    return {
      source: found && asMet(found, config.publicUrl),
      posts: found && isPosted(found.draft) && found.archivedAt === null ? found : null,
    };
  });
  const planningContexts = new PlanningContexts(store);
  const boxesThatAsk = keptForAWhile(now, (sourceId) => planningContexts.boxesThatAsk(sourceId));
  return {
    // What was taken is said to be taken, also where it cannot be found out whether a mail follows.
    isAsked: async (sourceId, values) =>
      (await boxesThatAsk(sourceId).catch(() => [])).some((box) => box === '' || values[box] === true),
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

/** Asks the database for something at most once in a while. While it is away, what was so a moment ago is. */
function keptForAWhile<Value>(now: () => number, read: (id: string) => Promise<Value>): (id: string) => Promise<Value> {
  const kept = new Map<string, { value: Value; until: number }>();
  return async (id) => {
    const cached = kept.get(id);
    if (cached && cached.until > now()) return cached.value;
    try {
      const value = await (cached ? read(id) : retryWhileUnavailable(() => read(id)));
      if (kept.size > MOST_CACHED) kept.clear();
      kept.set(id, { value, until: now() + CACHE_MS });
      return value;
    } catch (error) {
      if (cached) return cached.value;
      throw error;
    }
  };
}
