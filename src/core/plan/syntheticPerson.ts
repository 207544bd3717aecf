import { dequal } from 'dequal';
import type { ConsentEventKind } from '../consent/index.ts';
import { identifyingFields, keptValues } from '../identity/index.ts';
import { edgeValuesOf, type FieldValue, type FieldValues, type SourceField } from '../values/index.ts';
import type { PlanInput } from './input.ts';
import { NOBODY, type KnownPerson } from './knowledge.ts';
import { planSubmission } from './plan.ts';
import { deliveriesIn } from './planned.ts';

/** Who the person of a sample is supposed to be: known: they came by this route before. left: and took their consent back since. */
type MadeUp = 'known' | 'left';

const DAY_MS = 86_400_000;
/** When they came, confirmed, and left, in days before now. */
const CAME = 30;
const CONFIRMED = 29;
const LEFT = 10;

/**
 * Somebody made up, of whom the same is known as of a real person who came by a route before with other answers: what they
 * agreed to, what was delivered, and that they left. Who it really is, if anybody, does not matter.
 * @param input of the sample, with the route as its only one
 */
export function syntheticPerson(which: MadeUp, input: Omit<PlanInput, 'known'>): KnownPerson {
  const [by] = input.keys;
  if (!by) return NOBODY;
  const earlier = earlierValues(input);
  const at = (days: number) => input.now - days * DAY_MS;
  const before = planSubmission({ ...input, values: earlier, known: NOBODY, now: at(CAME) });
  const events: [kind: ConsentEventKind, days: number][] = [
    ['given', CAME],
    ['confirmed', CONFIRMED],
    ...(which === 'left' ? [['withdrawn', LEFT] as [ConsentEventKind, number]] : []),
  ];
  return {
    ...NOBODY,
    contact: {
      id: 'made up',
      address: by.kind === 'email' ? by.value : '',
      values: keptValues(input.fields, earlier),
    },
    identified: { sure: { id: 'made up', by }, possible: [] },
    consent: input.routes.flatMap(({ document: { consent } }) =>
      consent.asks.flatMap(({ purpose, channels }) =>
        channels.flatMap((channel) =>
          events
            // Where nobody confirms, nobody confirmed.
            .filter(([kind]) => kind !== 'confirmed' || consent.confirmedBy.by !== 'nobody')
            .map(([kind, days]) => ({ kind, at: at(days), purpose, channel })),
        ),
      ),
    ),
    sent: deliveriesIn(before)
      .filter(({ held }) => held === null)
      .map(({ routeId, routeVersion, targetId, connectionId, intent }) => ({
        routeId,
        routeVersion,
        targetId,
        connectionId,
        intent,
        arrived: true,
      })),
  };
}

const NAMES_BEFORE: Record<string, string> = { first_name: 'Wren', last_name: 'Kestrel', full_name: 'Wren Kestrel' };

/** What they answered then: by another name, and otherwise; by the same address, number or id they are known again. */
function earlierValues({ fields, values }: Pick<PlanInput, 'fields' | 'values'>): FieldValues {
  const identifying = new Set(identifyingFields(fields).map(({ id }) => id));
  return Object.fromEntries(
    fields.flatMap((field) => {
      const now = values[field.id];
      if (now === undefined) return [];
      return [[field.id, identifying.has(field.id) ? now : (otherThan(now, field) ?? now)]];
    }),
  );
}

/** Another value of a field; undefined where it is the same as ever, such as a box that gives consent. */
function otherThan(now: FieldValue, { type, keepAs, options }: SourceField): FieldValue | undefined {
  switch (type) {
    case 'yes/no':
    case 'several choices':
    case 'file':
      return undefined;
    case 'choice':
      return options.find((option) => option !== now);
    case 'text':
      return NAMES_BEFORE[keepAs];
    default:
      return edgeValuesOf(type).find((value) => !dequal(value, now));
  }
}
