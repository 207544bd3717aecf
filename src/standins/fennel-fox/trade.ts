import { randomUUID } from 'node:crypto';
import type { Bells } from './bells.ts';
import {
  NOT_ASKED,
  type Amount,
  type Answer,
  type Channel,
  type Customer,
  type Happening,
  type Line,
  type Order,
  type ShopState,
} from './state.ts';

/** So many happenings are remembered, for those who ask what they missed. */
const REMEMBERED = 5_000;

export interface Buyer {
  address: string;
  given: string;
  family: string;
  phone: string;
}

/** What customers do in the shop, and what follows: who is told, and what is remembered of it. */
export class Trade {
  readonly #state: () => ShopState;
  readonly #bells: Bells;

  constructor(state: () => ShopState, bells: Bells) {
    this.#state = state;
    this.#bells = bells;
  }

  find(address: string): Customer | null {
    const wanted = address.trim().toLowerCase();
    return this.#state().customers.find((one) => one.address.toLowerCase() === wanted) ?? null;
  }

  /** The customer of an address, made where there is none. What is empty changes nothing. */
  customer({ address, given, family, phone }: Buyer): Customer {
    const state = this.#state();
    let found = this.find(address);
    if (!found) {
      state.counters.customer += 1;
      found = {
        no: `C-${state.counters.customer}`,
        address: address.trim(),
        name: { given, family },
        phone,
        answers: { email: NOT_ASKED, sms: NOT_ASKED },
        bought: { orders: 0, spent: this.#amount(0), last: null },
        since: new Date().toISOString(),
      };
      state.customers.push(found);
    }
    if (given !== '') found.name.given = given;
    if (family !== '') found.name.family = family;
    if (phone !== '') found.phone = phone;
    return found;
  }

  /** Takes down what a customer said, in the words of the box. @returns whether it is something else than before */
  answer(customer: Customer, channel: Channel, says: 'yes' | 'no', words: string): boolean {
    const before = customer.answers[channel];
    if (before.says === says) return false;
    const answer: Answer = { says, words, on: new Date().toISOString() };
    customer.answers = { ...customer.answers, [channel]: answer };
    return true;
  }

  register(buyer: Buyer, ticked: Channel[]): void {
    const customer = this.customer(buyer);
    this.#takeBoxes(customer, ticked);
    this.#happened({ kind: 'customer.registered', trial: false, customer });
  }

  buy(buyer: Buyer, counts: Record<string, number>, { ticked, trial }: { ticked: Channel[]; trial: boolean }): Order {
    const state = this.#state();
    const customer = this.customer(buyer);
    this.#takeBoxes(customer, ticked);
    const lines = this.#lines(counts);
    state.counters.order += 1;
    const on = new Date().toISOString();
    const order: Order = {
      no: `F-${state.counters.order}`,
      customer: customer.no,
      lines,
      total: this.#total(lines),
      refunded: false,
      trial,
      on,
    };
    state.orders.push(order);
    if (!trial) this.#booked(customer, 1, Number(order.total.amount), on);
    this.#happened({ kind: 'order.placed', trial, customer, order });
    return order;
  }

  leaveBasket(buyer: Buyer, counts: Record<string, number>): void {
    const lines = this.#lines(counts);
    this.#happened({
      kind: 'basket.left',
      trial: false,
      customer: this.customer(buyer),
      basket: { lines, total: this.#total(lines) },
    });
  }

  refund(order: Order): void {
    const customer = this.#state().customers.find(({ no }) => no === order.customer);
    if (!customer || order.refunded) return;
    order.refunded = true;
    if (!order.trial) this.#booked(customer, 0, -Number(order.total.amount), customer.bought.last);
    this.#happened({ kind: 'order.refunded', trial: order.trial, customer, order });
  }

  /** A customer says by themselves, or somebody for them, whether they want to hear from the shop. */
  say(customer: Customer, channel: Channel, says: 'yes' | 'no', words: string): void {
    if (this.answer(customer, channel, says, words)) this.#happened({ kind: 'answer.changed', trial: false, customer });
  }

  #takeBoxes(customer: Customer, ticked: Channel[]): void {
    for (const { channel, words, shown } of this.#state().boxes) {
      if (!shown) continue;
      if (ticked.includes(channel)) this.answer(customer, channel, 'yes', words);
      // A box that is left alone takes nothing back.
      else if (customer.answers[channel].says === null) this.answer(customer, channel, 'no', words);
    }
  }

  #booked(customer: Customer, orders: number, spent: number, last: string | null): void {
    customer.bought = {
      orders: customer.bought.orders + orders,
      spent: this.#amount(Number(customer.bought.spent.amount) + spent),
      last,
    };
  }

  #lines(counts: Record<string, number>): Line[] {
    return this.#state().products.flatMap(({ sku, name, each }) => {
      const count = counts[sku] ?? 0;
      return count > 0 ? [{ sku, name, count, each: this.#amount(Number(each)) }] : [];
    });
  }

  #total = (lines: Line[]): Amount =>
    this.#amount(lines.reduce((sum, { count, each }) => sum + count * Number(each.amount), 0));

  #amount = (of: number): Amount => ({ amount: of.toFixed(2), currency: this.#state().shop.currency });

  #happened(what: Omit<Happening, 'no' | 'id' | 'on'>): void {
    const state = this.#state();
    state.counters.happening += 1;
    const happening: Happening = {
      no: state.counters.happening,
      id: `H-${randomUUID()}`,
      on: new Date().toISOString(),
      // As it was then: what changes later is another happening.
      ...structuredClone(what),
    };
    state.happenings = [...state.happenings, happening].slice(-REMEMBERED);
    this.#bells.ring(happening);
  }
}
