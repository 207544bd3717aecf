export type Channel = 'email' | 'sms';

/** What a customer said when they were asked whether they want to hear from the shop, by one channel. */
export interface Answer {
  /** null where they were never asked. */
  says: 'yes' | 'no' | null;
  words: string;
  on: string | null;
}

export interface Amount {
  amount: string;
  currency: string;
}

export interface Customer {
  no: string;
  address: string;
  name: { given: string; family: string };
  phone: string;
  answers: Record<Channel, Answer>;
  bought: { orders: number; spent: Amount; last: string | null };
  since: string;
}

export interface Line {
  sku: string;
  name: string;
  count: number;
  each: Amount;
}

export interface Order {
  no: string;
  customer: string;
  lines: Line[];
  total: Amount;
  refunded: boolean;
  /** Paid with the card that is for trying out. */
  trial: boolean;
  on: string;
}

export const KINDS = [
  'customer.registered',
  'order.placed',
  'order.refunded',
  'basket.left',
  'answer.changed',
] as const;
export type Kind = (typeof KINDS)[number];

/** Something that happened in the shop, as it is told. */
export interface Happening {
  no: number;
  id: string;
  kind: Kind;
  on: string;
  trial: boolean;
  customer: Customer;
  order?: Order;
  basket?: { lines: Line[]; total: Amount };
}

/** An address that is told what happens. */
export interface Bell {
  id: string;
  address: string;
  kinds: string[];
  secret: string;
}

/** A box at the check-out, by which customers agree to hear from the shop. */
export interface Box {
  channel: Channel;
  words: string;
  shown: boolean;
}

export interface ShopState {
  shop: { name: string; currency: string };
  tokens: { token: string; may: string[]; ended: boolean }[];
  products: { sku: string; name: string; each: string }[];
  boxes: Box[];
  customers: Customer[];
  orders: Order[];
  happenings: Happening[];
  bells: Bell[];
  counters: { customer: number; order: number; happening: number };
}

export const RIGHTS = ['customers:see', 'customers:change', 'orders:see', 'bells:change'];

export const NOT_ASKED: Answer = { says: null, words: '', on: null };

/** The observatory's shop on its first day. */
export function newState(token: string): ShopState {
  return {
    shop: { name: 'Observatory shop', currency: 'EUR' },
    tokens: [
      { token, may: RIGHTS, ended: false },
      { token: `${token}-sees-only`, may: ['customers:see', 'orders:see'], ended: false },
    ],
    products: [
      { sku: 'CHART-N', name: 'Star chart, northern sky', each: '14.00' },
      { sku: 'TORCH-R', name: 'Red torch', each: '9.50' },
      { sku: 'BINO-8', name: 'Binoculars 8 × 40', each: '119.00' },
      { sku: 'MUG', name: 'Eclipse mug', each: '11.00' },
    ],
    boxes: [
      { channel: 'email', words: 'Yes, send me the Sky letter by email.', shown: true },
      { channel: 'sms', words: 'Yes, text me when an evening is cancelled or added.', shown: true },
    ],
    customers: [],
    orders: [],
    happenings: [],
    bells: [],
    counters: { customer: 1000, order: 5000, happening: 0 },
  };
}
