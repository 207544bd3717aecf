import { randomUUID } from 'node:crypto';
import { Hono, type Context, type MiddlewareHandler } from 'hono';
import type { Member, MemberField, TernPostState } from './state.ts';

const PAGE = 3;
const ADDRESS = /^[^\s@]+@[^\s@]+\.[^\s@]+$/;

/** What a change of a member sends. */
interface MemberChange {
  email?: unknown;
  fields?: Record<string, unknown>;
  lists?: string[];
  groups?: string[];
  tags?: string[];
  confirmed?: { at: string; wording: string };
}

/** Tern Post's API: a key in a header, lists with groups, typed fields, cursor pages, problem documents. */
export function ternPostApi(state: () => TernPostState, changed: () => void): Hono {
  const api = new Hono();
  const answered = new Map<string, { status: 200 | 201; body: unknown }>();

  const problem = (
    c: Context,
    status: 400 | 401 | 403 | 404 | 409 | 422,
    type: string,
    title: string,
    more: object = {},
  ) =>
    c.newResponse(
      JSON.stringify({ type: `https://tern-post.example/problems/${type}`, title, status, ...more }),
      status,
      { 'content-type': 'application/problem+json' },
    );

  const needs =
    (permission: string): MiddlewareHandler =>
    async (c, next) => {
      const key = state().keys.find((candidate) => candidate.key === c.req.header('x-tern-key'));
      if (!key || key.revoked) return problem(c, 401, 'unknown-key', 'This key is not known.');
      if (permission !== '' && !key.permissions.includes(permission))
        return problem(c, 403, 'not-permitted', `The key lacks ${permission}.`);
      return next();
    };

  const paged = (c: Context, items: unknown[]) => {
    const start = Number(Buffer.from(c.req.query('cursor') ?? '', 'base64url').toString() || 0);
    const end = start + PAGE;
    return c.json({
      items: items.slice(start, end),
      next: end < items.length ? Buffer.from(String(end)).toString('base64url') : null,
    });
  };

  api.get('/account', needs(''), (c) => {
    const key = state().keys.find((candidate) => candidate.key === c.req.header('x-tern-key'));
    return c.json({ account: state().account, key: { permissions: key?.permissions ?? [] } });
  });
  api.get('/lists', needs('catalogue:read'), (c) =>
    paged(
      c,
      state().lists.map(({ id, name }) => ({ id, name })),
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
    const before = name ? answered.get(name) : undefined;
    if (before) return c.json(before.body as object, before.status, { 'idempotent-replayed': 'true' });
    const change = await c.req.json<MemberChange>().catch(() => null);
    if (!change) return problem(c, 400, 'not-json', 'The body is not JSON.');
    const wrong = check(state(), change);
    if (wrong) return problem(c, wrong.status, wrong.type, wrong.title, wrong.more);
    const { member, isNew } = apply(state(), change);
    changed();
    const status = isNew ? 201 : 200;
    const body = { member: structuredClone(member) };
    if (name) answered.set(name, { status, body });
    return c.json(body, status);
  });

  api.delete('/members/:id', needs('members:write'), (c) => {
    state().members = state().members.filter(({ id }) => id !== c.req.param('id'));
    changed();
    return c.body(null, 204);
  });

  /** Makes a list, group, tag or field by name. */
  const making = (make: (name: string, c: Context) => object | null) => async (c: Context) => {
    const { name = '', label = '' } = await c.req.json<{ name?: string; label?: string }>().catch(() => ({}) as never);
    const made = name + label === '' ? null : make(name + label, c);
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
    making((label) =>
      added(state().fields, {
        key: label.toLowerCase().replace(/[^a-z0-9]+/g, '_'),
        label,
        kind: 'line' as const,
        required: false,
        options: [],
        longest: 200,
      }),
    ),
  );

  return api;
}

function added<Item extends object>(items: Item[], item: Item): Item {
  items.push(item);
  return item;
}

function find(state: TernPostState, email: unknown): Member | undefined {
  return typeof email === 'string' ? state.members.find((member) => member.email === email.toLowerCase()) : undefined;
}

interface Wrong {
  status: 409 | 422;
  type: string;
  title: string;
  more?: object;
}

/** What keeps a change from being taken, as the real services do: wrong addresses, missing and ill-typed fields, people who left. */
function check(
  state: TernPostState,
  { email, fields = {}, lists = [], groups = [], confirmed }: MemberChange,
): Wrong | null {
  if (typeof email !== 'string' || !ADDRESS.test(email))
    return { status: 422, type: 'bad-address', title: 'This is not an address we can write to.' };
  const member = find(state, email);
  if (member?.state === 'left' && !(confirmed && member.leftAt && confirmed.at > member.leftAt)) {
    return { status: 409, type: 'left-before', title: 'This person left, and has to confirm anew.' };
  }
  if (member?.state === 'refused')
    return { status: 409, type: 'bounced', title: 'Mail to this address came back; it is not written to any more.' };
  for (const [key, value] of Object.entries(fields)) {
    const field = state.fields.find((candidate) => candidate.key === key);
    if (!field) return wrongField('unknown-field', key, 'There is no such field.');
    const detail = typeProblem(field, value);
    if (detail) return wrongField('wrong-value', key, detail);
  }
  const missing = state.fields.find(
    (field) =>
      field.required && field.kind !== 'address' && (fields[field.key] ?? member?.fields[field.key] ?? '') === '',
  );
  if (missing) return wrongField('required-field', missing.key, `${missing.label} is required.`);
  const allGroups = state.lists.flatMap((list) => list.groups);
  const gone = [
    ...lists.filter((id) => !state.lists.some((list) => list.id === id)),
    ...groups.filter((id) => !allGroups.some((group) => group.id === id)),
  ];
  return gone.length > 0 ? { status: 422, type: 'no-such-place', title: `There is no ${gone.join(', ')}.` } : null;
}

const wrongField = (type: string, key: string, detail: string): Wrong => ({
  status: 422,
  type,
  title: 'A field is not right.',
  more: { errors: [{ pointer: `/fields/${key}`, detail }] },
});

function typeProblem({ kind, options, longest }: MemberField, value: unknown): string | null {
  switch (kind) {
    case 'figure':
      return typeof value === 'number' ? null : 'takes a number';
    case 'flag':
      return typeof value === 'boolean' ? null : 'takes true or false';
    case 'option':
      return options.includes(String(value)) ? null : `takes one of: ${options.join(', ')}`;
    case 'day':
      return /^\d{4}-\d{2}-\d{2}$/.test(String(value)) ? null : 'takes a day like 2026-05-31';
    case 'address':
    case 'line':
      if (typeof value !== 'string') return 'takes text';
      return longest !== null && value.length > longest ? `takes at most ${longest} characters` : null;
    default:
      return kind satisfies never;
  }
}

function apply(
  state: TernPostState,
  { email, fields = {}, lists = [], groups = [], tags = [] }: MemberChange,
): { member: Member; isNew: boolean } {
  const known = find(state, email);
  const member: Member = known ?? {
    id: `M-${randomUUID().slice(0, 8)}`,
    email: String(email).toLowerCase(),
    state: 'active',
    lists: [],
    groups: [],
    tags: [],
    fields: {},
    joinedAt: new Date().toISOString(),
    leftAt: null,
    changes: 0,
  };
  Object.assign(member.fields, fields);
  member.lists = union(member.lists, lists);
  member.groups = union(member.groups, groups);
  member.tags = union(member.tags, tags);
  member.state = 'active';
  member.leftAt = null;
  member.changes += 1;
  for (const tag of tags)
    if (!state.tags.some(({ name }) => name === tag)) state.tags.push({ id: `T-${state.tags.length + 1}`, name: tag });
  if (!known) state.members.push(member);
  return { member, isNew: !known };
}

const union = (a: string[], b: string[]) => [...new Set([...a, ...b])];
