import type { TrialInput, TrialView } from '../../contract/profiles.ts';
import type { ExchangeView } from '../../contract/deliveries.ts';
import type { Profile } from '../../contract/profile/index.ts';
import { CAUSES, type Fault, type HeldPerson } from '../../core/delivery/index.ts';
import { fetchCatalogue } from '../connectors/catalogue.ts';
import { clientTokens } from '../connectors/oauth.ts';
import type { Reply, Wanted } from '../connectors/connector.ts';
import { verifyConnection } from '../connectors/verifying/verify.ts';
import type { Context } from '../context.ts';
import { connectorFor, partsFor } from './open.ts';

/** Tries one operation of a profile that is being made, live, and shows every request and answer. */
export async function tryOperation(context: Context, profile: Profile, input: TrialInput): Promise<TrialView> {
  const { credentials, email, fields } = input;
  const baseUrl = input.baseUrl.trim();
  const exchanges: ExchangeView[] = [];
  const access = { profile, baseUrl, credentials, pool: 'trial' };
  const view = (ok: boolean, outcome: string): TrialView => ({ ok, outcome, offers: null, exchanges });
  const failure = ({ cause, said }: Fault) => view(false, [CAUSES[cause].sentence, said].filter(Boolean).join(' '));

  if (profile.authentication.kind === 'OAuth, granted by a person')
    return view(
      false,
      'Access to such a service is granted in its own window: save the profile, connect, and try it there.',
    );
  const token =
    profile.authentication.kind === 'OAuth, by client' ? await clientTokens(context.send, access, context.now()) : null;
  if (token && !token.ok) return view(false, token.said);
  const parts = partsFor(context, token?.ok ? { ...access, token: token.tokens.access } : access, exchanges);
  const address = email.trim().toLowerCase();
  const wanted: Wanted = { email: address, kind: '', emailField: '', key: address, keyField: '' };

  const connector = connectorFor(parts);
  const person = async <T>(
    act: (held: HeldPerson) => Promise<Reply<T>>,
    done: string | ((value: T) => [ok: boolean, said: string]),
  ): Promise<TrialView> => {
    const found = await connector.find(wanted);
    if (!found.ok) return failure(found.fault);
    if (!found.value) return view(false, 'Nobody of that address is there. Write it first.');
    const reply = await act(found.value);
    if (!reply.ok) return failure(reply.fault);
    return typeof done === 'string' ? view(true, done) : view(...done(reply.value));
  };

  switch (input.operation) {
    case 'verify': {
      const { result } = await verifyConnection(parts, false);
      return result.ok
        ? view(true, `It answered as ${result.account}.`)
        : view(false, `${result.problem} ${result.nextStep}`);
    }
    case 'catalogue': {
      const reply = await fetchCatalogue(parts);
      if (!reply.ok) return failure(reply.fault);
      const { lists, tags, fields: offered } = reply.value;
      return { ...view(true, found(reply.value)), offers: { lists, tags, fields: offered } };
    }
    case 'find': {
      const reply = await connector.find(wanted);
      if (!reply.ok) return failure(reply.fault);
      return view(true, reply.value ? `Found: ${inWords(reply.value)}` : 'Nobody of that address is there.');
    }
    case 'write': {
      const change = { ...NOTHING, ...wanted, ...placeIn(input), fields, otherFields: fields };
      const before: Reply<HeldPerson | null> = connector.findsFirst
        ? await connector.find(wanted)
        : { ok: true, value: null };
      if (!before.ok) return failure(before.fault);
      const reply = await connector.write(change, before.value, context.newId());
      if (!reply.ok) return failure(reply.fault);
      const placed = await connector.place(change, reply.value);
      if (!placed.ok) return failure(placed.fault);
      return view(true, reply.value ? `Written: ${inWords(reply.value)}` : 'Accepted.');
    }
    case 'take out': {
      const { places: leaves, tags: tagsOff } = placeIn(input);
      return person((held) => connector.place({ ...NOTHING, ...wanted, leaves, tagsOff }, held), 'Taken out.');
    }
    case 'unsubscribe':
      return person(async (held) => {
        const reply = await connector.setStanding(wanted, held, 'unsubscribed', { channel: 'email', proof: null });
        return reply.ok ? connector.find(wanted) : reply;
      }, saysUnsubscribed);
    case 'remove':
      return person((held) => connector.remove(wanted, held), 'Deleted there.');
    default:
      return view(false, 'There is no such operation.');
  }
}

/** What a look shows of somebody who was unsubscribed a moment ago. */
function saysUnsubscribed(after: HeldPerson | null): [ok: boolean, said: string] {
  if (after === null) return [true, 'It took the request, and nobody of that address is there any more.'];
  if (after.standing === 'unsubscribed' || after.standing === 'suppressed')
    return [true, 'Unsubscribed there, as a look afterwards shows.'];
  return after.standing === null
    ? [true, 'It took the request. Its records do not say how somebody stands, so that nobody can see it.']
    : [false, `It took the request, and a look afterwards still shows "${after.state}".`];
}

/** A record as people read it. */
function inWords({ id, email, state, fields, lists, groups, tags }: HeldPerson): string {
  const values = Object.entries(fields).flatMap(([key, value]) =>
    value === null || value === '' ? [] : [`${key} ${String(value)}`],
  );
  const several = (what: string, items: string[]) => (items.length > 0 ? [`${what} ${items.join(', ')}`] : []);
  const parts = [
    [email, state].filter(Boolean).join(', ') || id,
    ...several('with', values),
    ...several('in the lists', lists),
    ...several('in the groups', groups),
    ...several('with the tags', tags),
  ];
  return `${parts.join('; ')}.`;
}

const NOTHING = { fields: {}, otherFields: {}, places: [], tags: [], leaves: [], tagsOff: [], proof: null };

const placeIn = ({ list, group, tag }: TrialInput) => ({
  places: list === '' ? [] : [{ list, group }],
  tags: tag === '' ? [] : [tag],
});

function found({
  lists,
  tags,
  fields,
  kinds,
}: {
  lists: unknown[];
  tags: unknown[];
  fields: { label: string }[];
  kinds: unknown[];
}): string {
  const labels = fields.map(({ label }) => label).join(', ');
  return `${lists.length} lists, ${tags.length} tags, ${kinds.length} kinds of record and ${fields.length} fields came back${labels ? `: ${labels}` : '.'}`;
}
