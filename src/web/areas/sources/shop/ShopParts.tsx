import type { SourceView } from '../../../../contract/source.ts';
import type { ShopDocument, ShopEvent } from '../../../../core/intake/index.ts';
import { CHANNEL_WORDS } from '../../../../core/consent/index.ts';
import { useShop } from '../../../data/shops.ts';
import { FieldsPart } from '../FieldsPart.tsx';

interface ShopPartsProps {
  source: SourceView;
  document: ShopDocument;
  set: (part: Partial<ShopDocument>) => void;
  /** What is wrong with the part at a JSON Pointer. */
  about: (pointer: string) => string | undefined;
  liveIds: string[];
}

const EVENT_WORDS: Record<ShopEvent, string> = {
  registered: 'Somebody registers',
  bought: 'Somebody buys',
  refunded: 'An order is refunded',
  'left a basket': 'Somebody leaves a full basket',
  said: 'Somebody says anew whether they want to hear from it',
};

/** A shop: which of the things that happen there are taken, what its check-out asks, and what is taken out of each. */
export function ShopParts({ source, document, set, about, liveIds }: ShopPartsProps) {
  const { data } = useShop(source.id);
  const { known } = document.events;
  const say = (kind: string, isTaken: boolean) =>
    set({
      events: {
        ...document.events,
        known: known.map((one) => (one.kind === kind ? { kind, act: isTaken ? 'take' : 'ignore' } : one)),
      },
    });
  return (
    <div className="p-5 flex flex-col gap-7">
      <section aria-labelledby="happens">
        <h3 id="happens" className="text-lg font-semibold">
          What is taken
        </h3>
        <p className="text-muted mb-2">
          Of each, the customer and what they agreed to comes along. A route tells them apart by the field “What
          happened”.
        </p>
        {known.map(({ kind, act }) => {
          const event = data?.kinds[kind];
          return (
            <label key={kind} className="flex gap-2 items-baseline py-0.5">
              <input
                type="checkbox"
                className="checkbox checkbox-sm self-center"
                checked={act === 'take'}
                onChange={({ target }) => say(kind, target.checked)}
              />
              <span>
                {event ? EVENT_WORDS[event] : kind} <code className="text-muted text-sm font-mono">{kind}</code>
                {event === 'said' && act === 'ignore' && (
                  <span className="block text-warning">
                    Customers who unsubscribe in the shop would still get mail from your other systems.
                  </span>
                )}
              </span>
            </label>
          );
        })}
      </section>
      <section aria-labelledby="boxes">
        <h3 id="boxes" className="text-lg font-semibold">
          What its check-out asks
        </h3>
        <p className="text-muted mb-2">
          Each is a consent of its own. A route says which it asks for, and which list needs it; buyers who ticked
          nothing are customers, and nothing more.
        </p>
        <dl className="grid grid-cols-[auto_1fr] gap-x-3 gap-y-1">
          {document.answers.map(({ channel, field }) => (
            <div key={channel} className="contents">
              <dt className="text-muted">by {CHANNEL_WORDS[channel]}</dt>
              <dd>“{document.fields.find(({ id }) => id === field)?.label}”</dd>
            </div>
          ))}
        </dl>
      </section>
      <FieldsPart of="happening" document={document} set={set} about={about} liveIds={liveIds} />
    </div>
  );
}
