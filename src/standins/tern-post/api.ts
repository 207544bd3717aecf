import { Hono, type Context } from 'hono';
import { keyIn, needsKey, problem, problemParts } from './answers.ts';
import { hooksApi, type Hooks } from './hooks.ts';
import { membershipApi } from './membership.ts';
import { apply, check, find, type MemberChange, type Wrong } from './rules.ts';
import type { Member, MemberField, TernPostState } from './state.ts';

/** What is said of something that is to be made. */
interface RequestBody {
  name?: string;
  label?: string;
  kind?: MemberField['kind'];
  options?: string[];
}

const PAGE = 3;
/** How many members one request may have. */
const MOST = 25;

const problemOf = (c: Context, { status, type, title, more }: Wrong) => problem(c, status, type, title, more);

/** Tern Post's API: a key in a header, lists with groups, typed fields, cursor pages, problem documents. */
export function ternPostApi(state: () => TernPostState, changed: () => void, hooks: Hooks): Hono {
  const api = new Hono();
  const answered = new Map<string, { status: 200 | 201; body: { member: Member } }>();

  /** Makes or changes a member; the same key gives the same answer again. */
  const answerTo = (key: string | undefined) => (key && !state().forgets ? answered.get(key) : undefined);

  function put(change: MemberChange, key: string | undefined) {
    const before = answerTo(key);
    if (before) return before;
    const wrong = check(state(), change);
    if (wrong) return { status: wrong.status, body: wrong };
    const { member, isNew } = apply(state(), change);
    changed();
    const answer = { status: isNew ? (201 as const) : (200 as const), body: { member: structuredClone(member) } };
    if (key) answered.set(key, answer);
    return answer;
  }

  const needs = (permission: string) => needsKey(state, permission);

  const paged = (c: Context, items: unknown[]) => {
    const start = Number(Buffer.from(c.req.query('cursor') ?? '', 'base64url').toString() || 0);
    const end = start + PAGE;
    return c.json({
      items: items.slice(start, end),
      next: end < items.length ? Buffer.from(String(end)).toString('base64url') : null,
    });
  };

  api.get('/account', needs(''), (c) => {
    const given = keyIn(c);
    const key = state().keys.find((candidate) => candidate.key === given);
    return c.json({ account: state().account, key: { permissions: key?.permissions ?? [] } });
  });
  api.get('/lists', needs('catalogue:read'), (c) =>
    paged(
      c,
      state().lists.map(({ id, name, asks = false }) => ({ id, name, asks_to_confirm: asks })),
    ),
  );
  api.get('/lists/:id/groups', needs('catalogue:read'), (c) => {
    const list = state().lists.find(({ id }) => id === c.req.param('id'));
    return list ? paged(c, list.groups) : problem(c, 404, 'no-such-place', 'There is no such list.');
  });
  api.get('/tags', needs('catalogue:read'), (c) => paged(c, state().tags));
  api.get('/fields', needs('catalogue:read'), (c) => paged(c, state().fields));

  api.post('/members/find', needs('members:read'), async (c) => {
    const { email } = await c.req.json<{ email?: unknown }>();
    const member = find(state(), email);
    return c.json({ member: member ?? null });
  });

  api.put('/members', needs('members:write'), async (c) => {
    const name = c.req.header('idempotency-key');
    const before = answerTo(name);
    if (before) return c.json(before.body, before.status, { 'idempotent-replayed': 'true' });
    const change = await c.req.json<MemberChange>().catch(() => null);
    if (!change) return problem(c, 400, 'not-json', 'The body is not JSON.');
    const { status, body } = put(change, name);
    return status < 300 ? c.json(body, status) : problemOf(c, body as Wrong);
  });

  /** Several members at once, each with an outcome of its own. */
  api.post('/members/batch', needs('members:write'), async (c) => {
    const { members = [] } = await c.req.json<{ members?: (MemberChange & { key?: string })[] }>();
    if (members.length > MOST) return problem(c, 422, 'too-many', `At most ${MOST} members at once.`);
    const results = members.map(({ key, ...change }) => {
      const { status, body } = put(change, key);
      if (status < 300) return { email: change.email, status, ...body };
      const { type, title, more } = body as Wrong;
      return { email: change.email, ...problemParts(status, type, title, more) };
    });
    return c.json({ results });
  });
  api.post('/members/find-many', needs('members:read'), async (c) => {
    const { emails = [] } = await c.req.json<{ emails?: unknown[] }>();
    return c.json({ members: emails.flatMap((email) => find(state(), email) ?? []) });
  });

  api.delete('/members/:id', needs('members:write'), (c) => {
    state().members = state().members.filter(({ id }) => id !== c.req.param('id'));
    changed();
    return c.body(null, 204);
  });

  /** Makes a list, group, tag or field by name. */
  const making = (make: (name: string, c: Context, told: RequestBody) => object | null) => async (c: Context) => {
    const told = await c.req.json<RequestBody>().catch((): RequestBody => ({}));
    const name = told.name ?? told.label ?? '';
    const made = name === '' ? null : make(name, c, told);
    if (!made) return problem(c, 422, 'no-such-place', 'It needs a name, and a group needs a list.');
    changed();
    return c.json(made, 201);
  };
  api.post(
    '/lists',
    needs('members:write'),
    making((name) => added(state().lists, { id: `L-${(state().lists.length + 1) * 100}`, name, groups: [] })),
  );
  api.post(
    '/lists/:id/groups',
    needs('members:write'),
    making((name, c) => {
      const list = state().lists.find(({ id }) => id === c.req.param('id'));
      return list ? added(list.groups, { id: `${list.id.replace('L', 'G')}-${list.groups.length + 1}`, name }) : null;
    }),
  );
  api.post(
    '/tags',
    needs('members:write'),
    making((name) => added(state().tags, { id: `T-${state().tags.length + 1}`, name })),
  );
  api.post(
    '/fields',
    needs('members:write'),
    making((label, _, { kind = 'line', options = [] }) =>
      added(state().fields, {
        key: label.toLowerCase().replace(/[^a-z0-9]+/g, '_'),
        label,
        kind,
        required: false,
        options,
        longest: 200,
      }),
    ),
  );

  api.route('/', membershipApi(state, changed, hooks));
  api.route('/', hooksApi(state, changed, hooks));
  return api;
}

function added<Item extends object>(items: Item[], item: Item): Item {
  items.push(item);
  return item;
}
