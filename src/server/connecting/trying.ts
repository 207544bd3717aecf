import type { TrialInput, TrialView } from '../../contract/profiles.ts';
import type { ExchangeView } from '../../contract/activity.ts';
import type { Profile } from '../../contract/profile/index.ts';
import { CAUSES, type Fault } from '../../core/delivery/index.ts';
import { fetchCatalogue } from '../connectors/catalogue.ts';
import { clientTokens } from '../connectors/oauth.ts';
import type { Reply, Wanted } from '../connectors/connector.ts';
import { verifyConnection } from '../connectors/verify.ts';
import type { Context } from '../context.ts';
import { connectorFor, partsFor } from './open.ts';

/** Tries one operation of a profile that is being made, live, and shows every request and answer. */
export async function tryOperation(context: Context, profile: Profile, input: TrialInput): Promise<TrialView> {
  const { credentials, email, fields } = input;
  const baseUrl = input.baseUrl.trim();
  const exchanges: ExchangeView[] = [];
  const access = { profile, baseUrl, credentials, pool: 'trial' };
  const view = (ok: boolean, outcome: string): TrialView => ({ ok, outcome, exchanges });
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
  const wanted: Wanted = { email: email.trim().toLowerCase(), kind: '', emailField: '' };

  switch (input.operation) {
    case 'verify': {
      const { result } = await verifyConnection(parts, false);
      return result.ok
        ? view(true, `It answered as ${result.account}.`)
        : view(false, `${result.problem} ${result.nextStep}`);
    }
    case 'catalogue': {
      const reply = await fetchCatalogue(parts);
      return reply.ok ? view(true, found(reply.value)) : failure(reply.fault);
    }
    case 'find': {
      const reply = await connectorFor(parts).find(wanted);
      if (!reply.ok) return failure(reply.fault);
      return view(true, reply.value ? `Found: ${JSON.stringify(reply.value)}` : 'Nobody of that address is there.');
    }
    case 'write': {
      const change = {
        ...wanted,
        fields,
        otherFields: fields,
        list: '',
        group: '',
        tags: [],
        leaves: [],
        tagsOff: [],
        proof: null,
      };
      const connector = connectorFor(parts);
      const before: Reply<Parameters<typeof connector.write>[1]> = connector.findsFirst
        ? await connector.find(wanted)
        : { ok: true, value: null };
      if (!before.ok) return failure(before.fault);
      const reply = await connector.write(change, before.value, context.newId());
      if (!reply.ok) return failure(reply.fault);
      return view(true, reply.value ? `Written: ${JSON.stringify(reply.value)}` : 'Accepted.');
    }
    default:
      return view(false, 'There is no such operation.');
  }
}

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
