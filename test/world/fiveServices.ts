import type { SourceView } from '../../src/contract/source.ts';
import { plainLine } from '../../src/core/mapping/index.ts';
import type { Target } from '../../src/core/plan/index.ts';
import { bellTarget, enquiryTarget, schoolForm, schoolRoute } from '../../src/server/demo/documents.ts';
import type { BellbuoyState } from '../../src/standins/bellbuoy/app.ts';
import type { CapstanState } from '../../src/standins/capstan/state.ts';
import type { RowbarnState } from '../../src/standins/rowbarn/state.ts';
import type { Operator } from './operator.ts';
import { eventually } from './processes.ts';
import { WebhookReceiver } from './receiver.ts';
import { BELL, CAPSTAN, ROWBARN, StandIn, TERN_KEY, type World } from './world.ts';

/** One form that goes to five connections: upserts, signed records, rows, messages that cannot be asked for, and webhooks. */
export class FiveServices {
  readonly #world: World;
  readonly #operator: Operator;
  readonly #others: Awaited<ReturnType<World['others']>>;
  readonly receiver: WebhookReceiver;
  readonly source: SourceView;

  private constructor(
    world: World,
    operator: Operator,
    wired: { others: Awaited<ReturnType<World['others']>>; receiver: WebhookReceiver; source: SourceView },
  ) {
    this.#world = world;
    this.#operator = operator;
    this.#others = wired.others;
    this.receiver = wired.receiver;
    this.source = wired.source;
  }

  static async wire(world: World, operator: Operator): Promise<FiveServices> {
    const others = await world.others();
    const receiver = await WebhookReceiver.start();
    const ternPost = await operator.connect(world.ternPost, TERN_KEY);
    const capstan = await operator.connectTo('capstan', others.capstan.url, CAPSTAN);
    const rowbarn = await operator.connectTo('rowbarn', others.rowbarn.url, ROWBARN);
    await operator.grant(rowbarn.id);
    const bellbuoy = await operator.connectTo('bellbuoy', `${others.bellbuoy.url}${BELL}`, {});
    await others.bellbuoy.change<BellbuoyState>(() => ({ perMinute: 100_000 }));
    const webhook = await operator.connectTo('signed-webhook', receiver.url, { secret: receiver.secret });
    const source = await operator.form('Visits', { ...schoolForm(), minimumSeconds: 0 });
    const line = (to: string, field: string) => plainLine({ id: `l-${to}`, to, from: { kind: 'field', field } });
    const plain = (target: Target, lines: Target['lines'], more: Partial<Target> = {}): Target => ({
      ...target,
      lines,
      ...more,
    });
    const document = schoolRoute(source.id, ternPost.id, [
      enquiryTarget(capstan.id),
      plain(bellTarget(rowbarn.id), [line('Email', 'email'), line('School', 'school'), line('Pupils', 'pupils')], {
        kind: 'visits',
      }),
      plain(bellTarget(bellbuoy.id), [
        plainLine({ id: 'l-text', to: 'text', from: { kind: 'text', text: '{email} {pupils}' } }),
      ]),
      plain(bellTarget(webhook.id), [line('pupils', 'pupils')]),
    ]);
    const [first, ...more] = document.targets;
    if (!first) throw new Error('no target');
    await operator.route('Visits', {
      ...document,
      mails: [],
      accepted: {},
      targets: [{ ...first, duplicates: 'update', lines: [...first.lines, line('has_telescope', 'pupils')] }, ...more],
    });
    return new FiveServices(world, operator, { others, receiver, source });
  }

  /** What a visitor enters: who, and how many pupils. */
  visit = (email: string, last: string, pupils: number): Record<string, string> => ({
    first: 'Mara',
    last,
    email,
    school: `School of ${last}`,
    pupils: String(pupils),
  });

  /** Has a share of what is asked of every service fail: answered 500, broken off, answered with nonsense, told to wait. */
  async fail(): Promise<void> {
    for (const standIn of this.#standIns()) {
      await standIn.faults({ kind: 'status', status: 500, share: 0.02 });
      await standIn.faults({ kind: 'drop', share: 0.01 });
      await standIn.faults({ kind: 'garbage', share: 0.005 });
      await standIn.faults({ kind: 'status', status: 429, share: 0.003 });
    }
    this.receiver.failing = 0.04;
  }

  /** Has something more go wrong at one of them. @param at which of the four that take faults */
  worsen = (at: number, fault: object): Promise<void> => this.#standIns()[at % 4]?.faults(fault) ?? Promise.resolve();

  async recover(): Promise<void> {
    await Promise.all(this.#standIns().map((standIn) => standIn.noFaults()));
    this.receiver.failing = 0;
  }

  #standIns(): StandIn[] {
    const { capstan, rowbarn, bellbuoy } = this.#others;
    return [new StandIn(this.#world.ternPost), capstan, rowbarn, bellbuoy];
  }

  /** Waits until nothing is under way. What may have arrived or not waits for a person, who looks there and says which. */
  async settled(timeoutMs: number): Promise<void> {
    await eventually(
      async () => (await this.#sayOfHeld()) + (await this.#underWay()),
      (count) => count === 0,
      timeoutMs,
    ).catch(async (error: unknown) => {
      // What is open, and what is known of the services, tells why.
      const left = await this.#world.rows(
        "SELECT connection_id, state, cause, tries, due_at, lease_until, lease_owner FROM deliveries WHERE state NOT IN ('delivered', 'dropped')",
      );
      const health = await this.#world.rows('SELECT * FROM connection_health');
      throw new Error(
        `${String(error)} at ${Date.now()}: ${JSON.stringify({ health, count: left.length, left: left.slice(0, 20) })}`,
      );
    });
  }

  async #sayOfHeld(): Promise<number> {
    const held = await this.#world.rows<{ id: string; cause: string; intent: string }>(
      "SELECT id, cause, intent FROM deliveries WHERE state = 'held'",
    );
    const { messages } = await this.#others.bellbuoy.inside<BellbuoyState>();
    for (const { id, cause, intent } of held) {
      const { fields } = JSON.parse(intent) as { fields: { text?: string } };
      const isThere = messages.some(({ text }) => text === fields.text);
      await this.#operator.post(`/deliveries/${id}/${cause === 'unclear' && isThere ? 'arrived' : 'retry'}`);
    }
    return held.length;
  }

  async #underWay(): Promise<number> {
    const [row] = await this.#world.rows<{ count: number }>(
      `SELECT (SELECT COUNT(*) FROM submissions WHERE state = 'received')
        + (SELECT COUNT(*) FROM deliveries WHERE state IN ('queued', 'sending', 'retrying')) AS count`,
    );
    return row?.count ?? 0;
  }

  /** What is at each service that takes everything: the address and the number of pupils, in the order in which it came. */
  async there(): Promise<Record<'capstan' | 'rowbarn' | 'bellbuoy' | 'webhook', string[]>> {
    const { records } = await this.#others.capstan.inside<CapstanState>();
    const { sheets } = await this.#others.rowbarn.inside<RowbarnState>();
    const { messages } = await this.#others.bellbuoy.inside<BellbuoyState>();
    const rows = sheets.find(({ id }) => id === 'visits')?.rows ?? [];
    return {
      capstan: records.map(({ cells }) => `${cells.mail} ${cells.heads}`),
      rowbarn: rows.map(({ cells }) => `${cells.Email} ${cells.Pupils}`),
      bellbuoy: messages.map(({ text }) => text),
      webhook: this.receiver.taken.map(({ email, pupils }) => `${String(email)} ${String(pupils)}`),
    };
  }
}
