import { textAt } from '../../json/index.ts';
import type { Kind } from '../reading.ts';
import { shopAsPosts } from '../shop.ts';
import type { ShopDocument } from '../source.ts';
import { ALL_EVENTS } from '../webhookParts.ts';
import { posts } from './posts.ts';

/** Something that happened in a shop, or a customer that it has: JSON, whose fields say where they stand. */
export const shop: Kind<ShopDocument> = {
  read: (document, payload, facts) => {
    const asPosts = shopAsPosts(document);
    const isHappening = payload.kind === 'json' && textAt(payload.json, document.events.path) !== '';
    // A customer by themselves, who is fetched with all others, is nothing that happened.
    return posts.read(isHappening ? asPosts : { ...asPosts, events: ALL_EVENTS }, payload, facts);
  },
  // The shop shows who it is, or was asked by us.
  screen: () => null,
};
