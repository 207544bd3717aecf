import type { Connector } from '../connector.ts';
import { abilitiesOf } from '../catalogue.ts';
import type { FieldSource } from '../../../contract/profile/index.ts';
import type { DestinationField } from '../../../core/mapping/index.ts';
import { dropRow } from './file.ts';
import { mailConnector } from './mail.ts';
import type { Added, CodeParts } from './parts.ts';
import { sendSignedWebhook } from './webhook.ts';

export { isFileName } from './file.ts';
export { mailConnector } from './mail.ts';
export type { CodeParts } from './parts.ts';
export { isSigningSecret } from './webhook.ts';

/** The connectors that need code: each only ever adds something. */
export function createCodeConnector(parts: CodeParts): Connector {
  const { profile } = parts.access;
  const add = (data: Record<string, unknown>, email: string, key: string): Promise<Added> => {
    switch (profile.speaks) {
      case 'mail':
        return mailConnector(parts).add(data, email, key);
      case 'signed webhook':
        return sendSignedWebhook(parts, data, key);
      case 'file':
        return dropRow(parts, data, key);
      case 'http':
        throw new Error('the engine speaks http');
      default:
        return profile.speaks satisfies never;
    }
  };
  return {
    canLookFor: () => false,
    replaces: false,
    findsFirst: false,
    // A mail has the same Message-ID, a webhook the same id, a row the same mark: whoever gets it twice knows it again.
    adds: false,
    makesTwice: false,
    shownAfterMs: 0,
    answersProve: false,
    fetchCatalogue: () =>
      Promise.resolve({
        ok: true,
        value: {
          lists: [],
          tags: [],
          kinds: [],
          fields: fixedFields(profile.catalogue.fields),
          can: abilitiesOf(profile),
        },
      }),
    find: () => Promise.resolve({ ok: true, value: null }),
    async write({ email, fields, tags }, _, key) {
      const data =
        profile.speaks === 'signed webhook' ? { email, ...fields, ...(tags.length > 0 ? { tags } : {}) } : fields;
      const { fault } = await add(data, email, key);
      return fault ? { ok: false, fault } : { ok: true, value: null };
    },
    register: () => Promise.resolve(cannot),
    unregister: () => Promise.resolve(cannot),
    together: null,
    standings: [],
    setStanding: () => Promise.resolve(cannot),
    place: () => Promise.resolve({ ok: true, value: { moved: false } }),
    make: () => Promise.resolve(cannot),
    canRemove: false,
    remove: () => Promise.resolve(cannot),
  };
}

const cannot = {
  ok: false as const,
  fault: { cause: 'not permitted' as const, said: 'This kind cannot do that.', waitMs: null },
};

const fixedFields = (source: FieldSource | undefined): DestinationField[] =>
  source && 'fixed' in source ? source.fixed : [];
