import { describe, expect, it } from 'vitest';
import { checkProfile } from '../../../contract/profile/index.ts';
import { profileFromCurl, readCurl } from './fromCurl.ts';
import { proposeProfile } from './fromOpenApi.ts';
import { guessChoice } from './guess.ts';
import { MOST_PARTS, staysSmall } from './bounds.ts';
import { readOpenApi } from './openApi.ts';

/** A service that is quite unlike the stand-ins: YAML, OpenAPI 3.0, forms, page numbers, make and change apart. */
const YAML = `
openapi: 3.0.3
info: { title: Visitors' Book, version: '1', description: Who was here }
servers: [{ url: https://book.example/api/ }]
security: [{ basic: [] }]
paths:
  /me:
    get: { responses: { '200': { description: ok, content: { application/json: { schema: { type: object, properties: { title: { type: string } } } } } } } }
  /segments:
    get:
      parameters: [{ name: page, in: query, schema: { type: integer } }]
      responses: { '200': { description: ok, content: { application/json: { schema: { type: object, properties: { rows: { type: array, items: { type: object, properties: { code: { type: string }, title: { type: string } } } }, total_pages: { type: integer } } } } } } }
  /people:
    get:
      summary: By address
      parameters: [{ name: mail, in: query, schema: { type: string } }]
      responses: { '200': { description: ok, content: { application/json: { schema: { type: array, items: { $ref: '#/components/schemas/Person' } } } } } }
    post:
      requestBody: { content: { application/x-www-form-urlencoded: { schema: { $ref: '#/components/schemas/PersonIn' } } } }
      responses: { '201': { description: made, content: { application/json: { schema: { $ref: '#/components/schemas/Person' } } } } }
  /people/{personId}:
    patch:
      parameters: [{ name: personId, in: path, required: true, schema: { type: string } }]
      requestBody: { content: { application/x-www-form-urlencoded: { schema: { $ref: '#/components/schemas/PersonIn' } } } }
      responses: { '200': { description: changed, content: { application/json: { schema: { $ref: '#/components/schemas/Person' } } } } }
components:
  securitySchemes: { basic: { type: http, scheme: basic } }
  schemas:
    PersonIn:
      type: object
      required: [mail, town]
      properties: { mail: { type: string }, town: { type: string, maxLength: 40 }, comes: { type: string, enum: [often, once] }, letters: { type: boolean } }
    Person:
      allOf: [{ $ref: '#/components/schemas/PersonIn' }, { type: object, properties: { id: { type: integer }, status: { type: string } } }]
`;

describe('a profile from an OpenAPI description', () => {
  it('finds what does what in a service of quite another manner', async () => {
    const api = await readOpenApi(YAML);
    if (!api.ok) throw new Error(api.issue);
    const choice = guessChoice(api.value);
    expect(choice).toEqual({
      verify: 'get /me',
      lists: 'get /segments',
      groups: '',
      tags: '',
      fields: '',
      find: 'get /people',
      upsert: '',
      make: 'post /people',
      change: 'patch /people/{personId}',
      intoList: '',
      intoGroup: '',
      tag: '',
      outOfList: '',
      outOfGroup: '',
      untag: '',
      unsubscribe: '',
      subscribe: '',
      makeList: '',
      makeGroup: '',
      makeTag: '',
      makeField: '',
      remove: '',
    });
    const profile = proposeProfile(api.value, choice);
    expect(checkProfile(profile).ok).toBe(true);
    expect(profile).toMatchObject({
      id: 'own-visitors-book',
      baseUrl: { preset: 'https://book.example/api' },
      authentication: { kind: 'user and password' },
      verify: { account: '$.title' },
      find: { request: { method: 'GET', path: '/people?mail={email}' }, record: '$[0]' },
      write: {
        how: 'make or change',
        make: { request: { method: 'POST', encoding: 'form', body: { mail: '$email', town: '$fields.town' } } },
        change: { request: { method: 'PATCH', path: '/people/{id}' } },
      },
      record: { id: '$.id', email: '$.mail', state: '$.status' },
      catalogue: {
        lists: {
          request: { path: '/segments{?page}' },
          items: '$.rows[*]',
          paging: { kind: 'page number', pages: '$.total_pages' },
          id: '$.code',
          name: '$.title',
        },
        fields: {
          fixed: [
            { key: 'mail', type: 'email', required: true },
            { key: 'town', type: 'text', required: true, maxLength: 40 },
            { key: 'comes', type: 'choice', choices: ['often', 'once'] },
            { key: 'letters', type: 'yes/no', required: false },
          ],
        },
      },
    });
  });

  describe('that puts people into places by requests of their own', () => {
    const json = (schema: object) => ({ content: { 'application/json': { schema } } });
    const text = { type: 'string' };
    const properties = (members: object) => json({ type: 'object', properties: members });
    const person = {
      id: text,
      mail: text,
      status: { type: 'string', enum: ['subscribed', 'pending', 'unsubscribed', 'bounced', 'odd'] },
    };
    const done = { 200: { description: 'ok', ...properties(person) } };
    const operation = (operationId: string, body?: object, responses: object = done) => ({
      operationId,
      ...(body ? { requestBody: properties(body) } : {}),
      responses,
    });
    const thing = {
      200: { description: 'ok', ...properties({ segment: { type: 'object', properties: { id: text } } }) },
    };
    const listed = {
      200: {
        description: 'ok',
        ...json({ type: 'array', items: { type: 'object', properties: { id: text, name: text } } }),
      },
    };
    const parameters = (...names: string[]) =>
      names.map((name) => ({ name, in: 'path', required: true, schema: text }));
    /** Two manners of the same: the place of a person, and the person in a place. */
    const described = (paths: object) =>
      JSON.stringify({
        openapi: '3.1.0',
        info: { title: 'Rows of lamps', version: '1' },
        paths: {
          '/contacts': { post: operation('add', { mail: text }) },
          '/segments': {
            get: operation('segments', undefined, listed),
            post: operation('newSegment', { title: text }, thing),
          },
          ...paths,
        },
      });
    const proposed = async (paths: object) => {
      const api = await readOpenApi(described(paths));
      if (!api.ok) throw new Error(api.issue);
      const choice = guessChoice(api.value);
      const profile = proposeProfile(api.value, choice);
      expect(checkProfile(profile)).toMatchObject({ ok: true });
      return { choice, profile };
    };

    it('as the places of a person', async () => {
      const { choice, profile } = await proposed({
        '/contacts/{contact}/segments/{segment}': {
          parameters: parameters('contact', 'segment'),
          put: operation('join'),
          delete: operation('part'),
        },
        '/contacts/{contact}/tags': {
          parameters: parameters('contact'),
          post: operation('label', { tags: { type: 'array', items: text } }),
        },
        '/contacts/{contact}/opt-out': { parameters: parameters('contact'), post: operation('optOut') },
      });
      expect(choice).toMatchObject({
        make: 'add',
        intoList: 'join',
        outOfList: 'part',
        tag: 'label',
        untag: '',
        unsubscribe: 'optOut',
        makeList: 'newSegment',
      });
      expect(profile.place).toEqual({
        intoList: { method: 'PUT', path: '/contacts/{id}/segments/{list}' },
        outOfList: { method: 'DELETE', path: '/contacts/{id}/segments/{list}' },
        tag: { method: 'POST', path: '/contacts/{id}/tags', body: { tags: ['$tag'] } },
      });
      expect(profile.make).toEqual({
        list: { request: { method: 'POST', path: '/segments', body: { title: '$name' } }, id: '$.segment.id' },
      });
      expect(profile.subscription).toEqual({
        means: {
          subscribed: 'subscribed',
          pending: 'unconfirmed',
          unsubscribed: 'unsubscribed',
          bounced: 'suppressed',
        },
        unsubscribe: { method: 'POST', path: '/contacts/{id}/opt-out' },
      });
    });

    it('as the people of a place', async () => {
      const { choice, profile } = await proposed({
        '/segments/{segment}/members': {
          parameters: parameters('segment'),
          post: operation('join', { member_id: text }),
        },
        '/segments/{segment}/members/{contact}': {
          parameters: parameters('segment', 'contact'),
          delete: operation('part'),
        },
        '/segments/{segment}/groups/{group}/members/{contact}': {
          parameters: parameters('segment', 'group', 'contact'),
          put: operation('joinGroup'),
        },
      });
      expect(choice).toMatchObject({ intoList: 'join', outOfList: 'part', intoGroup: 'joinGroup', outOfGroup: '' });
      expect(profile.place).toEqual({
        intoList: { method: 'POST', path: '/segments/{list}/members', body: { member_id: '$id' } },
        outOfList: { method: 'DELETE', path: '/segments/{list}/members/{id}' },
        intoGroup: { method: 'PUT', path: '/segments/{list}/groups/{group}/members/{id}' },
      });
    });

    it('unless writing a person does it too', async () => {
      const api = await readOpenApi(
        JSON.stringify({
          openapi: '3.1.0',
          info: { title: 'Rows of lamps', version: '1' },
          paths: {
            '/segments/{segment}/members': {
              parameters: parameters('segment'),
              post: operation('add', { mail: text, tags: { type: 'array', items: text } }),
            },
            '/members/{member}/tags': { parameters: parameters('member'), post: operation('label', { tag: text }) },
          },
        }),
      );
      if (!api.ok) throw new Error(api.issue);
      const choice = guessChoice(api.value);
      expect(choice).toMatchObject({ make: 'add', change: '', intoList: '', tag: '' });
      expect(proposeProfile(api.value, choice).write).toMatchObject({
        how: 'add',
        add: { request: { path: '/segments/{list}/members', body: { mail: '$email', tags: '$tags' } } },
      });
    });
  });

  it('says where an answer of success says that it is none', async () => {
    const answering = (words: string) =>
      YAML.replace(
        "'201': { description: made, content: { application/json: { schema: { $ref: '#/components/schemas/Person' } } } }",
        `'200': { description: read, content: { application/json: { schema: { type: object, properties: { verdict: { type: string, enum: [${words}] } } } } } }`,
      );
    const successIn = async (words: string) => {
      const api = await readOpenApi(answering(words));
      if (!api.ok) throw new Error(api.issue);
      return proposeProfile(api.value, guessChoice(api.value)).success;
    };
    expect(await successIn('Accepted, Rejected, Unchanged')).toEqual({
      path: '$.verdict',
      is: ['Accepted', 'Unchanged'],
    });
    expect(await successIn('active, left')).toBeUndefined();
  });
  it('does as it is told where it guessed wrong', async () => {
    const api = await readOpenApi(YAML);
    if (!api.ok) throw new Error(api.issue);
    const profile = proposeProfile(api.value, { ...guessChoice(api.value), change: '', find: '', lists: '' });
    expect([profile.write.how, profile.find, profile.catalogue.lists]).toEqual(['add', undefined, undefined]);
  });

  it('does not follow references out of the document', async () => {
    const outside = YAML.replace("'#/components/schemas/PersonIn' } } } }", "'http://127.0.0.1:9/secret.json' } } } }");
    const read = await readOpenApi(outside);
    expect(read.ok ? JSON.stringify(proposeProfile(read.value, guessChoice(read.value))) : read.issue).not.toContain(
      'secret-value',
    );
  });
});

describe('a profile from a cURL line', () => {
  const from = (line: string) => {
    const request = readCurl(line);
    if (!request.ok) throw new Error(request.issue);
    return profileFromCurl(request.value);
  };
  it.each([
    [
      'a bearer token',
      `curl https://x.example/p -H 'Authorization: Bearer abc' -d 'email=a@b.example'`,
      { kind: 'bearer' },
    ],
    [
      'a scheme of its own',
      `curl https://x.example/p -H 'Authorization: Token abc' -d 'email=a@b.example'`,
      { kind: 'key in header', header: 'Authorization', prefix: 'Token ' },
    ],
    [
      'a key in a header',
      `curl https://x.example/p -H "X-Api-Key: abc" -d 'email=a@b.example'`,
      { kind: 'key in header', header: 'X-Api-Key' },
    ],
    [
      'a key in the query',
      `curl 'https://x.example/p?api_key=abc&v=2' -d 'email=a@b.example'`,
      { kind: 'key in query', parameter: 'api_key' },
    ],
    ['user and password', `curl -u mara:abc https://x.example/p -d 'email=a@b.example'`, { kind: 'user and password' }],
    ['nothing', `curl https://x.example/p -d 'email=a@b.example'`, { kind: 'none' }],
    [
      'an address that is the secret',
      `curl https://x.example/hooks/T0/9f3kabc82mZq1 -d 'email=a@b.example'`.replace('82mZq1', '82mZq17hX'),
      { kind: 'secret address' },
    ],
    [
      'a password beside the person',
      `curl 'https://x.example/p?password=abc&v=2' -d 'email=a@b.example&pwd=abc'`,
      { kind: 'key in query', parameter: 'password' },
    ],
  ])('takes %s for the way in, and keeps none of it', (_, line, authentication) => {
    const profile = from(line);
    expect(profile.authentication).toEqual(authentication);
    expect(checkProfile(profile).ok).toBe(true);
    expect(JSON.stringify(profile)).not.toContain('abc');
  });

  it('makes the address the person, and every other value a field', () => {
    const profile = from(
      `curl --request PUT https://x.example/v2/people \\\n --json '{"person": {"mail": "x", "age": 7, "fan": true}, "note": "hi"}'`,
    );
    expect(profile.write).toEqual({
      how: 'add',
      add: {
        request: {
          method: 'PUT',
          path: '/v2/people',
          body: { person: { mail: '$email', age: '$fields.age', fan: '$fields.fan' }, note: '$fields.note' },
        },
      },
    });
    expect(profile.catalogue.fields).toMatchObject({
      fixed: [
        { key: 'age', type: 'number' },
        { key: 'fan', type: 'yes/no' },
        { key: 'note', type: 'text' },
      ],
    });
  });
  it('keeps what is no secret: other parts of the query and other headers', () => {
    const profile = from(`curl 'https://x.example/p?v=2' -H 'X-Region: north' -d 'email=a@b.example&name=Some'`);
    expect(profile.write).toMatchObject({
      add: {
        request: {
          path: '/p?v=2',
          encoding: 'form',
          headers: { 'X-Region': 'north' },
          body: { email: '$email', name: '$fields.name' },
        },
      },
    });
  });
});

describe('a description that unfolds to too much', () => {
  /** So many schemas, each of which names the next one twice: 2^levels parts. */
  const nested = (levels: number) => ({
    components: {
      schemas: Object.fromEntries(
        Array.from({ length: levels }, (_, level) => {
          const next = { $ref: `#/components/schemas/S${level + 1}` };
          return [`S${level}`, { type: 'object', properties: { a: next, b: next } }];
        }),
      ),
    },
  });
  const asText = (levels: number) =>
    JSON.stringify({ openapi: '3.1.0', info: { title: 'x', version: '1' }, paths: {}, ...nested(levels) });

  it.each([
    [3, true],
    [12, true],
    [17, false],
    [40, false],
  ])('%i levels: read %s', (levels, isRead) => expect(staysSmall(nested(levels))).toBe(isRead));

  it('is refused with the reason, at once', async () => {
    const read = await readOpenApi(asText(22));
    expect(read).toMatchObject({ ok: false, issue: expect.stringContaining('unfold') as string });
  });

  it('takes what refers to itself once, and what is deep or long without references as what it is', () => {
    const own = { $ref: '#/components/schemas/Node' };
    expect(staysSmall({ components: { schemas: { Node: { left: own, right: own } } } })).toBe(true);
    let deep: unknown = 1;
    for (let depth = 0; depth < 200; depth += 1) deep = [deep];
    expect(staysSmall(deep)).toBe(false);
    expect(staysSmall(Array.from({ length: MOST_PARTS - 1 }, () => 1))).toBe(true);
    expect(staysSmall(Array.from({ length: MOST_PARTS }, () => 1))).toBe(false);
    expect(staysSmall({ a: { $ref: '#/%E0%A4%A' }, b: { $ref: 'elsewhere.json' } })).toBe(true);
  });
});
