import { query, type JSONValue } from 'json-p3';
import { parseTemplate } from 'url-template';
import type { ExchangeView } from '../../contract/activity.ts';
import { classifyAnswer, type Answer, type HeldPerson } from '../../core/delivery/index.ts';
import type { DestinationField } from '../../core/mapping/index.ts';
import type { CatalogueItem, CatalogueList } from '../../core/plan/index.ts';
import type { Connector, PersonChange, Reply } from './connector.ts';
import type { Send } from './http.ts';
import type { PagedRequest, Profile, RequestTemplate } from './profile.ts';

/** More pages than this are a service that pages in circles. */
const MOST_PAGES = 200;

export interface Access {
  profile: Profile;
  baseUrl: string;
  key: string;
}

/** Sends one request of a profile; keeps what was said in `record`. */
export async function sendTemplate(
  send: Send,
  { profile, baseUrl, key }: Access,
  template: RequestTemplate,
  values: Record<string, unknown>,
  record: ExchangeView[] = [],
  idempotencyKey?: string,
): Promise<Answer> {
  const path = parseTemplate(template.path).expand(values as Record<string, string>);
  const { header } = profile.authentication;
  const { answer, exchange } = await send({
    method: template.method,
    url: baseUrl.replace(/\/+$/, '') + path,
    headers: {
      [header]: key,
      ...(template.idempotencyHeader && idempotencyKey ? { [template.idempotencyHeader]: idempotencyKey } : {}),
    },
    secretHeaders: [header],
    ...(template.body === undefined ? {} : { body: fillBody(template.body, values) }),
  });
  record.push(exchange);
  return answer;
}

/** Puts values in the place of "$name"; a member whose value is absent is left out. */
function fillBody(template: unknown, values: Record<string, unknown>): unknown {
  if (typeof template === 'string' && template.startsWith('$')) return values[template.slice(1)];
  if (Array.isArray(template)) return template.map((item) => fillBody(item, values));
  if (typeof template !== 'object' || template === null) return template;
  return Object.fromEntries(
    Object.entries(template).flatMap(([name, item]) => {
      const value = fillBody(item, values);
      return value === undefined ? [] : [[name, value]];
    }),
  );
}

/** Speaks to a service as its profile says. */
export function createConnector(send: Send, access: Access, now: () => number, record: ExchangeView[] = []): Connector {
  const { profile } = access;

  async function call(
    template: RequestTemplate,
    values: Record<string, unknown>,
    idempotencyKey?: string,
  ): Promise<Reply<unknown>> {
    const answer = await sendTemplate(send, access, template, values, record, idempotencyKey);
    const fault = classifyAnswer(answer, profile.errors, now());
    return fault ? { ok: false, fault } : { ok: true, value: answer.kind === 'answered' ? answer.body : null };
  }

  async function fetchAll(paged: PagedRequest, values: Record<string, unknown> = {}): Promise<Reply<unknown[]>> {
    const items: unknown[] = [];
    let cursor: unknown;
    for (let page = 0; page < MOST_PAGES; page += 1) {
      const reply = await call(paged.request, { ...values, ...(cursor === undefined ? {} : { cursor }) });
      if (!reply.ok) return reply;
      items.push(...all(reply.value, paged.items));
      cursor = one(reply.value, paged.next) ?? undefined;
      if (cursor === undefined) break;
    }
    return { ok: true, value: items };
  }

  async function findPerson(email: string): Promise<Reply<HeldPerson | null>> {
    const reply = await call(profile.find.request, { email });
    return reply.ok ? { ok: true, value: personOf(profile, reply.value) } : reply;
  }

  return {
    findPerson,

    async upsertPerson(change: PersonChange, idempotencyKey: string) {
      const { email, fields, list, group, tags, proof } = change;
      const values = {
        email,
        fields,
        lists: list === '' ? [] : [list],
        groups: group === '' ? [] : [group],
        tags,
        proof: proof ?? undefined,
      };
      const reply = await call(profile.upsert.request, values, idempotencyKey);
      return reply.ok ? { ok: true, value: personOf(profile, reply.value) } : reply;
    },

    async fetchCatalogue() {
      const { lists, tags, fields } = profile.catalogue;
      const foundLists = await fetchAll(lists);
      if (!foundLists.ok) return foundLists;
      const withGroups: CatalogueList[] = [];
      for (const item of foundLists.value.map((entry) => itemOf(entry, lists))) {
        const groups = await fetchAll(lists.groups, { list: item.id });
        if (!groups.ok) return groups;
        withGroups.push({ ...item, groups: groups.value.map((entry) => itemOf(entry, lists.groups)) });
      }
      const foundTags = await fetchAll(tags);
      if (!foundTags.ok) return foundTags;
      const foundFields = await fetchAll(fields);
      if (!foundFields.ok) return foundFields;
      return {
        ok: true,
        value: {
          lists: withGroups,
          tags: foundTags.value.map((entry) => itemOf(entry, tags)),
          fields: foundFields.value.map((entry) => fieldOf(entry, profile)),
        },
      };
    },
  };
}

/** Everything a JSONPath finds. */
export const all = (body: unknown, path: string): unknown[] => query(path, body as JSONValue).values();

/** The first thing that a JSONPath finds; undefined when there is none. */
export const one = (body: unknown, path: string): unknown => all(body, path)[0];

const text = (value: unknown): string => (typeof value === 'string' || typeof value === 'number' ? String(value) : '');
const itemOf = (entry: unknown, paths: { id: string; name: string }): CatalogueItem => ({
  id: text(one(entry, paths.id)),
  name: text(one(entry, paths.name)),
});

function fieldOf(entry: unknown, profile: Profile): DestinationField {
  const paths = profile.catalogue.fields;
  const longest = one(entry, paths.maxLength);
  return {
    key: text(one(entry, paths.key)),
    label: text(one(entry, paths.label)),
    type: paths.types[text(one(entry, paths.type))] ?? 'text',
    required: one(entry, paths.required) === true,
    choices: all(entry, paths.choices).map(text),
    maxLength: typeof longest === 'number' ? longest : null,
  };
}

function personOf({ person }: Profile, body: unknown): HeldPerson | null {
  const email = one(body, person.email);
  if (typeof email !== 'string') return null;
  return {
    email,
    state: text(one(body, person.state)),
    fields: (one(body, person.fields) ?? {}) as HeldPerson['fields'],
    lists: all(body, person.lists).map(text),
    groups: all(body, person.groups).map(text),
    tags: all(body, person.tags).map(text),
  };
}
