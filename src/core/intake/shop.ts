import type { Channel } from '../consent/index.ts';
import type { ShopEvent } from './shopParts.ts';
import { plainField, type SourceField } from '../values/index.ts';
import { ALL_EVENTS, PLAIN_WEBHOOK } from './webhookParts.ts';
import { SOURCE_FORMAT, type PostsDocument, type ShopDocument } from './source.ts';

/** A shop as a connector profile describes it; paths are JSONPaths into one happening. */
export interface ShopDescription {
  id: string;
  kind: string;
  kinds: Record<string, ShopEvent>;
  test?: string;
  fields: { key: string; label: string; type: SourceField['type']; path: string; keepAs?: string }[];
  answers: { channel: Channel; says: string; words: string; at: string }[];
}

/** A box at a shop's check-out. */
export interface CheckoutBox {
  channel: string;
  words: string;
}

const KIND_FIELD = 'event';
const TEST_FIELD = 'test';

/** The source that a shop is, before anybody changed it. @param boxes what its check-out offers, in its own words */
export function shopDocument(connectionId: string, shop: ShopDescription, boxes: CheckoutBox[]): ShopDocument {
  const answers = shop.answers.map(({ channel }) => ({
    channel,
    field: `agrees_${channel}`,
    words: `agreed_words_${channel}`,
    at: `said_at_${channel}`,
  }));
  const at = (field: SourceField, path: string, label: string): SourceField => ({ ...field, path, label });
  return {
    format: SOURCE_FORMAT,
    kind: 'shop',
    fields: [
      ...shop.fields.map(({ key, label, type, path, keepAs = '' }) => ({
        ...at(plainField(key, type), path, label),
        keepAs,
        // Whoever shops tells no more of themselves than they have to, and may be known better from elsewhere.
        keepRule: 'latest' as const,
      })),
      ...shop.answers.flatMap(({ channel, says, words, at: when }, index) => {
        const ids = answers[index];
        const box = boxes.find((one) => one.channel === channel)?.words ?? '';
        return ids === undefined
          ? []
          : [
              at(plainField(ids.field, 'yes/no'), says, box === '' ? `Agrees to ${CHANNEL_LABELS[channel]}` : box),
              at(plainField(ids.words, 'text'), words, `Words of the box for ${CHANNEL_LABELS[channel]}`),
              at(plainField(ids.at, 'date-time'), when, `When they said it, for ${CHANNEL_LABELS[channel]}`),
            ];
      }),
      at(plainField(KIND_FIELD, 'text'), shop.kind, 'What happened'),
      at(plainField(TEST_FIELD, 'yes/no'), shop.test ?? '', 'Whether it was a test'),
    ],
    statement: '',
    trust: 'usual',
    connectionId,
    events: { ...ALL_EVENTS, path: shop.kind, known: Object.keys(shop.kinds).map((kind) => ({ kind, act: 'take' })) },
    idPath: shop.id,
    answers,
    saidBy: Object.entries(shop.kinds).flatMap(([kind, what]) => (what === 'said' ? [kind] : [])),
    kindField: KIND_FIELD,
    testField: TEST_FIELD,
  };
}

const CHANNEL_LABELS: Record<Channel, string> = {
  email: 'email',
  sms: 'text messages',
  phone: 'calls',
  post: 'letters by post',
};

/** The same as an address for programs, which reads payloads in the same way. */
export const shopAsPosts = (document: ShopDocument): PostsDocument => ({
  ...PLAIN_WEBHOOK,
  format: document.format,
  kind: 'posts',
  fields: document.fields,
  statement: document.statement,
  trust: document.trust,
  each: '',
  events: document.events,
  idPath: document.idPath,
});
