import { asksForKnown, type Catalogue, type LiveRoute, type RouteDocument } from '../../core/plan/index.ts';
import type { SourceDocument } from '../../core/intake/index.ts';
import { readCatalogue, readCatalogueDates } from '../store/connections.ts';
import type { SourceField } from '../../core/values/index.ts';
import type { Store } from '../store/database.ts';
import { readKnowledge } from '../store/knowledge.ts';
import { liveVersionsOf, readRouteVersion } from '../store/routes.ts';
import { readSourceVersion } from '../store/sources.ts';

const MOST_KEPT = 500;

export interface PlanningContext {
  routes: LiveRoute[];
  catalogues: Record<string, Catalogue>;
  /** What connections are called, by their ids. */
  names: Record<string, string>;
  /** What may be known of people; read only where a route asks for it. */
  knowledge: SourceField[];
}

/** What a source is planned with that no route takes. */
export const NO_CONTEXT: PlanningContext = { routes: [], catalogues: {}, names: {}, knowledge: [] };

/**
 * What plans are made with. Published versions never change and a catalogue changes with its date, so both are kept;
 * which of them is live is asked every time.
 */
export class PlanningContexts {
  readonly #store: Store;
  readonly #sources = new Kept<SourceDocument>();
  readonly #routes = new Kept<RouteDocument>();
  readonly #catalogues = new Kept<Catalogue>();

  constructor(store: Store) {
    this.#store = store;
  }

  /** A published version of a source. */
  source(id: string, version: number): Promise<SourceDocument> {
    return this.#sources.get(`${id} ${version}`, () => readSourceVersion(this.#store.db, id, version));
  }

  /** The same of several sources, each once. */
  async ofAll(sourceIds: string[]): Promise<Map<string, PlanningContext>> {
    const ids = [...new Set(sourceIds)];
    return new Map(await Promise.all(ids.map(async (id) => [id, await this.of(id)] as const)));
  }

  /** The boxes whose ticks a live route has people confirm by a mail; '' among them where sending is enough. */
  async boxesThatAsk(sourceId: string): Promise<string[]> {
    const routes = await this.#liveRoutes(sourceId);
    return routes.flatMap(({ document: { consent } }) =>
      consent.confirmedBy.by === 'nobody'
        ? []
        : consent.asks.flatMap(({ channels, tickField }) => (channels.includes('email') ? [tickField] : [])),
    );
  }

  async #liveRoutes(sourceId: string): Promise<LiveRoute[]> {
    const { db } = this.#store;
    const versions = await liveVersionsOf(db, sourceId);
    return Promise.all(
      versions.map(async ({ id, name, version }) => {
        const document = await this.#routes.get(`${id} ${version}`, () => readRouteVersion(db, id, version));
        return { id, name, version, document };
      }),
    );
  }

  /** The live routes that take a source, and what every connection offers. */
  async of(sourceId: string): Promise<PlanningContext> {
    const { db } = this.#store;
    const [live, dates] = await Promise.all([this.#liveRoutes(sourceId), readCatalogueDates(db)]);
    const catalogues = dates.map(async ({ id, at }) => {
      return [id, await this.#catalogues.get(`${id} ${at}`, () => readCatalogue(db, id))] as const;
    });
    const asks = live.some(({ document }) => asksForKnown(document));
    return {
      routes: live,
      catalogues: Object.fromEntries(await Promise.all(catalogues)),
      names: Object.fromEntries(dates.map(({ id, name }) => [id, name])),
      knowledge: asks ? await readKnowledge(db) : [],
    };
  }
}

/** Values that never change under their key. */
class Kept<Value> {
  readonly #values = new Map<string, Value>();

  async get(key: string, read: () => Promise<Value | null>): Promise<Value> {
    const kept = this.#values.get(key);
    if (kept !== undefined) return kept;
    const value = await read();
    if (value === null) throw new Error(`${key} is missing`);
    if (this.#values.size > MOST_KEPT) this.#values.clear();
    this.#values.set(key, value);
    return value;
  }
}
