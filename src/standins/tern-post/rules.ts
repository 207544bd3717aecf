import { randomUUID } from 'node:crypto';
import type { Member, MemberField, TernPostState } from './state.ts';

const ADDRESS = /^[^\s@]+@[^\s@]+\.[^\s@]+$/;

/** What a change of a member sends. */
export interface MemberChange {
  email?: unknown;
  fields?: Record<string, unknown>;
  lists?: string[];
  groups?: string[];
  tags?: string[];
  confirmed?: { at: string; wording: string };
}

export function find(state: TernPostState, email: unknown): Member | undefined {
  return typeof email === 'string' ? state.members.find((member) => member.email === email.toLowerCase()) : undefined;
}

export interface Wrong {
  status: 409 | 422;
  type: string;
  title: string;
  more?: object;
}

/** What keeps a change from being taken, as the real services do: wrong addresses, missing and ill-typed fields, people who left. */
export function check(
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

function typeProblem({ kind, options, longest, required }: MemberField, value: unknown): string | null {
  // Null clears a field.
  if (value === null) return required ? 'cannot be cleared' : null;
  const text = typeof value === 'string' ? value : JSON.stringify(value);
  switch (kind) {
    case 'figure':
      return typeof value === 'number' ? null : 'takes a number';
    case 'flag':
      return typeof value === 'boolean' ? null : 'takes true or false';
    case 'option':
      return options.includes(text) ? null : `takes one of: ${options.join(', ')}`;
    case 'day':
      return /^\d{4}-\d{2}-\d{2}$/.test(text) ? null : 'takes a day like 2026-05-31';
    case 'address':
    case 'line':
      if (typeof value !== 'string') return 'takes text';
      return longest !== null && value.length > longest ? `takes at most ${longest} characters` : null;
    default:
      return kind satisfies never;
  }
}

export function apply(
  state: TernPostState,
  { email, fields = {}, lists = [], groups = [], tags = [], confirmed }: MemberChange,
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
  const asks = state.lists.some(({ id, asks: does }) => does === true && lists.includes(id));
  const isAsked = member.state === 'asked' || (!known && asks);
  // Whoever confirmed elsewhere, and is said to have, is not asked once more.
  member.state = isAsked && !confirmed ? 'asked' : 'active';
  member.leftAt = null;
  member.changes += 1;
  for (const tag of tags)
    if (!state.tags.some(({ name }) => name === tag)) state.tags.push({ id: `T-${state.tags.length + 1}`, name: tag });
  if (!known) state.members.push(member);
  return { member, isNew: !known };
}

const union = (a: string[], b: string[]) => [...new Set([...a, ...b])];
