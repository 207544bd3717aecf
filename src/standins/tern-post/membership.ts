import { Hono, type Context } from 'hono';
import { needsKey, problem } from './answers.ts';
import type { Hooks } from './hooks.ts';
import type { Member, TernPostState } from './state.ts';

/** What becomes of members later: taken out of places, unsubscribed, back again. */
export function membershipApi(state: () => TernPostState, changed: () => void, hooks: Hooks): Hono {
  const api = new Hono();
  const writes = needsKey(state, 'members:write');

  const ofMember =
    (change: (member: Member, c: Context) => Response | null | Promise<Response | null>) => async (c: Context) => {
      const member = state().members.find(({ id }) => id === c.req.param('id'));
      if (!member) return problem(c, 404, 'no-such-member', 'There is no such member.');
      const refusal = await change(member, c);
      if (refusal) return refusal;
      member.changes += 1;
      changed();
      return c.json({ member });
    };
  const without = (items: string[], item: string | undefined) => items.filter((candidate) => candidate !== item);

  api.delete(
    '/members/:id/lists/:list',
    writes,
    ofMember((member, c) => {
      const list = state().lists.find(({ id }) => id === c.req.param('list'));
      if (!list) return problem(c, 422, 'no-such-place', 'There is no such list.');
      member.lists = without(member.lists, list.id);
      // Whoever is out of a list is out of its groups.
      member.groups = member.groups.filter((group) => !list.groups.some(({ id }) => id === group));
      return null;
    }),
  );
  api.delete(
    '/members/:id/groups/:group',
    writes,
    ofMember((member, c) => {
      member.groups = without(member.groups, c.req.param('group'));
      return null;
    }),
  );
  api.delete(
    '/members/:id/tags/:tag',
    writes,
    ofMember((member, c) => {
      member.tags = without(member.tags, c.req.param('tag'));
      return null;
    }),
  );
  api.post(
    '/members/:id/leave',
    writes,
    ofMember((member) => {
      leave(member, hooks);
      return null;
    }),
  );
  api.post(
    '/members/:id/return',
    writes,
    ofMember(async (member, c) => {
      const { confirmed } = await c.req
        .json<{ confirmed?: { at: string } }>()
        .catch((): { confirmed?: { at: string } } => ({}));
      if (member.state === 'refused') return problem(c, 409, 'bounced', 'Mail to this address came back.');
      if (member.leftAt && !(confirmed && confirmed.at > member.leftAt))
        return problem(c, 409, 'left-before', 'This person left, and has to confirm anew.');
      Object.assign(member, { state: 'active', leftAt: null });
      hooks.tell('member.returned', member);
      return null;
    }),
  );
  return api;
}

/** A member unsubscribes. */
export function leave(member: Member, hooks: Hooks): void {
  Object.assign(member, { state: 'left', leftAt: new Date().toISOString() });
  hooks.tell('member.left', member);
}

/** A member confirms, by the mail that Tern Post sent them. */
export function confirm(member: Member, hooks: Hooks): void {
  member.state = 'active';
  hooks.tell('member.confirmed', member);
}

/** A mail to a member came back for good. */
export function bounce(member: Member, hooks: Hooks): void {
  member.state = 'refused';
  hooks.tell('member.bounced', member);
}
