import { randomUUID } from 'node:crypto';
import { Webhook } from 'standardwebhooks';

/** Where the box office tells of its orders: an address, and the secret that its messages are signed with. */
export interface WebhookAddress {
  url: string;
  secret: string;
}

export interface Order {
  evening: string;
  name: string;
  email: string;
  phone: string;
  tickets: number;
  chart: boolean;
}

const PRICE = 12.5;
const CHART = 4;
/** Told again after so long, as often, where nobody took it. */
const AGAIN_MS = [1_000, 5_000, 30_000, 120_000];

/** What is told of an order. */
const message = (number: number, { evening, name, email, phone, tickets, chart }: Order) => ({
  order: number,
  customer: {
    phone,
    ...(email === '' ? {} : { email }),
    name: { given: name.split(' ')[0] ?? '', family: name.split(' ').slice(1).join(' ') },
  },
  evening,
  items: [{ name: 'Evening ticket', count: tickets }, ...(chart ? [{ name: 'Star chart', count: 1 }] : [])],
  total: { amount: (tickets * PRICE + (chart ? CHART : 0)).toFixed(2), currency: 'EUR' },
  group: tickets > 7,
});

/** Tells of an order. */
export const tell = (told: WebhookAddress, number: number, order: Order): Promise<void> =>
  send(told, JSON.stringify(message(number, order)));

/** Sends a message, signed as Standard Webhooks say, until it is taken or has been tried often enough. */
export async function send({ url, secret }: WebhookAddress, body: string): Promise<void> {
  if (url === '') return;
  const id = randomUUID();
  for (const wait of [...AGAIN_MS, null]) {
    const at = new Date();
    const status = await fetch(url, {
      method: 'POST',
      headers: {
        'content-type': 'application/json',
        'webhook-id': id,
        'webhook-timestamp': String(Math.floor(at.getTime() / 1000)),
        'webhook-signature': new Webhook(secret).sign(id, at, body),
      },
      body,
    }).then(
      (response) => response.status,
      () => 0,
    );
    if ((status >= 200 && status < 300) || wait === null) return;
    await new Promise((resolve) => setTimeout(resolve, wait).unref());
  }
}
