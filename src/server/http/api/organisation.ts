import { Hono } from 'hono';
import { OrganisationInput, type OrganisationView } from '../../../contract/organisation.ts';
import { nameOrganisation } from '../../commands/organisation/nameOrganisation.ts';
import type { Context } from '../../context.ts';
import { readOrganisationNames } from '../../store/organisation.ts';
import { allow, type Session } from '../gates.ts';
import { outcome } from '../outcome.ts';
import { readInput } from '../problems.ts';

/** Who asks people, as they know it. */
export function organisationRoutes(context: Context): Hono<Session> {
  const app = new Hono<Session>();
  app.get('/', allow('purposes:read'), async (c) =>
    c.json({ names: await readOrganisationNames(context.store.db) } satisfies OrganisationView),
  );
  app.put('/', allow('purposes:write'), async (c) => {
    const names = outcome(await nameOrganisation(c.get('actor'), context, await readInput(c, OrganisationInput)));
    return c.json({ names } satisfies OrganisationView);
  });
  return app;
}
