import type { SourceRecord } from '../store/sources.ts';
import { DAY_MS } from '../store/figures.ts';
import { pick, type Invented } from './people.ts';
import type { Happening } from './happenings.ts';

const DAYS = 34;

/** What the shop sells, as its stand-in has it. */
const PRODUCTS = [
  { sku: 'CHART-N', name: 'Star chart, northern sky', each: 14 },
  { sku: 'TORCH-R', name: 'Red torch', each: 9.5 },
  { sku: 'BINO-8', name: 'Binoculars 8 × 40', each: 119 },
  { sku: 'MUG', name: 'Eclipse mug', each: 11 },
];
const WORDS = {
  email: 'Yes, send me the Sky letter by email.',
  sms: 'Yes, text me when an evening is cancelled or added.',
};

interface Answer {
  says: 'yes' | 'no' | null;
  words: string;
  on: string | null;
}

interface Customer {
  no: string;
  address: string;
  name: { given: string; family: string };
  phone: string;
  answers: { email: Answer; sms: Answer };
  bought: { orders: number; spent: { amount: string; currency: string }; last: string | null };
  since: string;
}

/** Something that happened in the shop, as it tells it. */
interface ShopEvent {
  no: number;
  id: string;
  kind: string;
  on: string;
  trial: boolean;
  customer: Customer;
  order?: object;
  basket?: object;
}

/** What happened in the shop in the weeks before, and whom it has as customers; some of them since long before that. */
export interface InventedTrade {
  events: { person: Invented; event: ShopEvent }[];
  /** The state of the stand-in after it. */
  state: object;
}

const money = (amount: number) => ({ amount: amount.toFixed(2), currency: 'EUR' });

/** Invents what people bought, left in baskets, and said about hearing from the shop. */
export function inventTrade(people: Invented[], before: Invented[], now: number, random: () => number): InventedTrade {
  const customers = new Map<string, Customer>();
  const orders: object[] = [];
  const events: InventedTrade['events'] = [];
  const timed = people
    .flatMap((person, index) => {
      const at = Math.round(now - 25 * 60_000 - random() ** 1.2 * DAYS * DAY_MS);
      const left = index % 6 === 2 ? [{ person, at: at - 40 * 60_000, what: 'basket.left' as const }] : [];
      const later = at + 3 * DAY_MS;
      const stops = index % 13 === 5 && later < now ? [{ person, at: later, what: 'answer.changed' as const }] : [];
      return [...left, { person, at, what: 'order.placed' as const }, ...stops];
    })
    .sort((a, b) => a.at - b.at);
  for (const person of before) {
    const since = new Date(now - (60 + random() * 500) * DAY_MS).toISOString();
    const customer = newCustomer(person, customers.size, since);
    customer.answers = answersOf(random, since);
    customer.bought = { orders: 1 + Math.floor(random() * 4), spent: money(14 + random() * 90), last: since };
    customers.set(person.email, customer);
  }
  for (const { person, at, what } of timed) {
    const on = new Date(at).toISOString();
    const customer = customers.get(person.email) ?? newCustomer(person, customers.size, on);
    customers.set(person.email, customer);
    const lines = PRODUCTS.filter((_, index) => index === 0 || random() < 0.3).map(({ each, ...product }) => ({
      ...product,
      count: 1 + Math.floor(random() * 2),
      each: money(each),
    }));
    const total = lines.reduce((sum, { count, each }) => sum + count * Number(each.amount), 0);
    const trial = what === 'order.placed' && events.length % 29 === 11;
    const base = { no: events.length + 1, id: `H-demo-${events.length + 1}`, kind: what, on, trial };
    if (what === 'answer.changed') {
      if (customer.answers.email.says !== 'yes') continue;
      customer.answers.email = { says: 'no', words: 'Stopped in the account.', on };
    }
    if (what === 'order.placed') {
      customer.answers = answersOf(random, on);
      if (!trial) {
        const { orders: count, spent } = customer.bought;
        customer.bought = { orders: count + 1, spent: money(Number(spent.amount) + total), last: on };
      }
    }
    const order = {
      no: `F-${5001 + orders.length}`,
      customer: customer.no,
      lines,
      total: money(total),
      refunded: false,
      trial,
      on,
    };
    if (what === 'order.placed') orders.push(order);
    events.push({
      person,
      event: {
        ...base,
        customer: structuredClone(customer),
        ...(what === 'order.placed' ? { order } : {}),
        ...(what === 'basket.left' ? { basket: { lines, total: money(total) } } : {}),
      },
    });
  }
  const counters = { customer: 1000 + customers.size, order: 5000 + orders.length, happening: events.length };
  const happenings = events.map(({ event }) => event);
  return { events, state: { customers: [...customers.values()], orders, happenings, counters } };
}

const newCustomer = ({ given, family, email }: Invented, index: number, since: string): Customer => ({
  no: `C-${1001 + index}`,
  address: email,
  name: { given, family },
  phone: '',
  answers: { email: { says: null, words: '', on: null }, sms: { says: null, words: '', on: null } },
  bought: { orders: 0, spent: money(0), last: null },
  since,
});

function answersOf(random: () => number, on: string): Customer['answers'] {
  const answer = (channel: 'email' | 'sms', share: number): Answer => ({
    says: random() < share ? 'yes' : 'no',
    words: WORDS[channel],
    on,
  });
  return { email: answer('email', 0.55), sms: answer('sms', 0.15) };
}

/** What happened in the shop as the demo lives through it. */
export const shopHappenings = ({ events }: InventedTrade, source: SourceRecord, random: () => number): Happening[] =>
  events.map(({ person, event }) => ({
    at: Date.parse(event.on) + 2_000,
    source,
    page: '',
    person,
    payload: { kind: 'json', json: event, files: [] },
    confirmsAfter: event.kind === 'order.placed' && random() < 0.8 ? pick([4, 9, 35, 200], random) * 60_000 : null,
  }));
