/** Tern Post's description of its own API (OpenAPI 3.1), as its makers would publish it. */
export function describeTernPost(origin: string): object {
  const text = { type: 'string' };
  const texts = { type: 'array', items: text };
  const place = { type: 'object', properties: { id: text, name: text } };
  const page = (items: object) => ({
    description: 'A page of them.',
    content: {
      'application/json': {
        schema: {
          type: 'object',
          properties: { items: { type: 'array', items }, next: { type: ['string', 'null'] } },
        },
      },
    },
  });
  const cursor = { name: 'cursor', in: 'query', schema: text };
  const list = { name: 'listId', in: 'path', required: true, schema: text };
  const memberAnswer = {
    description: 'The member, or null.',
    content: {
      'application/json': {
        schema: { type: 'object', properties: { member: { $ref: '#/components/schemas/Member' } } },
      },
    },
  };
  const inPath = (name: string) => ({ name, in: 'path', required: true, schema: text });
  const ofMember = inPath('memberId');
  const taking = (operationId: string, summary: string, place: string) => ({
    delete: { operationId, summary, parameters: [ofMember, inPath(place)], responses: { 200: memberAnswer } },
  });
  const consent = { type: 'object', properties: { at: { type: 'string', format: 'date-time' }, wording: text } };
  const turning = (operationId: string, summary: string, body: object | null) => ({
    post: {
      operationId,
      summary,
      parameters: [ofMember],
      ...(body ? { requestBody: { content: { 'application/json': { schema: body } } } } : {}),
      responses: { 200: memberAnswer },
    },
  });
  const making = (operationId: string, what: string, named: 'name' | 'label', known: string, parameters: object[]) => ({
    operationId,
    summary: `Make a ${what}`,
    parameters,
    requestBody: {
      content: { 'application/json': { schema: { type: 'object', required: [named], properties: { [named]: text } } } },
    },
    responses: {
      201: {
        description: `The new ${what}.`,
        content: {
          'application/json': { schema: { type: 'object', properties: { [known]: text, [named]: text } } },
        },
      },
    },
  });
  return {
    openapi: '3.1.0',
    info: { title: 'Tern Post', version: '1', description: 'Mailing lists with groups, tags and typed fields.' },
    servers: [{ url: origin }],
    security: [{ key: [] }],
    paths: {
      '/v1/account': {
        get: {
          operationId: 'whoAmI',
          summary: 'Whose key this is, and what it may do',
          responses: {
            200: {
              description: 'The account.',
              content: {
                'application/json': {
                  schema: {
                    type: 'object',
                    properties: {
                      account: { type: 'object', properties: { name: text } },
                      key: { type: 'object', properties: { permissions: texts } },
                    },
                  },
                },
              },
            },
          },
        },
      },
      '/v1/lists': {
        get: { operationId: 'allLists', summary: 'The lists', parameters: [cursor], responses: { 200: page(place) } },
        post: making('makeList', 'list', 'name', 'id', []),
      },
      '/v1/lists/{listId}/groups': {
        get: {
          operationId: 'groupsOfList',
          summary: 'The groups of a list',
          parameters: [list, cursor],
          responses: { 200: page(place) },
        },
        post: making('makeGroup', 'group', 'name', 'id', [list]),
      },
      '/v1/tags': {
        get: { operationId: 'allTags', summary: 'The tags', parameters: [cursor], responses: { 200: page(place) } },
        post: making('makeTag', 'tag', 'name', 'id', []),
      },
      '/v1/fields': {
        get: {
          operationId: 'allFields',
          summary: 'The fields that members have',
          parameters: [cursor],
          responses: {
            200: page({
              type: 'object',
              properties: {
                key: text,
                label: text,
                kind: { type: 'string', enum: ['address', 'line', 'figure', 'flag', 'option', 'day'] },
                required: { type: 'boolean' },
                options: texts,
                longest: { type: ['integer', 'null'] },
              },
            }),
          },
        },
        post: making('makeField', 'field', 'label', 'key', []),
      },
      '/v1/members/find': {
        post: {
          operationId: 'findMember',
          summary: 'Find a member by address',
          requestBody: {
            content: {
              'application/json': { schema: { type: 'object', required: ['email'], properties: { email: text } } },
            },
          },
          responses: { 200: memberAnswer },
        },
      },
      '/v1/members': {
        put: {
          operationId: 'putMember',
          summary: 'Make or change a member',
          parameters: [{ name: 'Idempotency-Key', in: 'header', schema: text }],
          requestBody: {
            content: {
              'application/json': {
                schema: {
                  type: 'object',
                  required: ['email'],
                  properties: {
                    email: text,
                    fields: { type: 'object', additionalProperties: true },
                    lists: texts,
                    groups: texts,
                    tags: texts,
                    confirmed: consent,
                  },
                },
              },
            },
          },
          responses: { 200: memberAnswer, 201: memberAnswer },
        },
      },
      '/v1/members/{memberId}': {
        delete: {
          operationId: 'deleteMember',
          summary: 'Delete a member',
          parameters: [ofMember],
          responses: { 204: { description: 'Gone.' } },
        },
      },
      '/v1/members/{memberId}/lists/{listId}': taking('takeOutOfList', 'Take a member out of a list', 'listId'),
      '/v1/members/{memberId}/groups/{groupId}': taking('takeOutOfGroup', 'Take a member out of a group', 'groupId'),
      '/v1/members/{memberId}/leave': turning('unsubscribeMember', 'A member unsubscribes', null),
      '/v1/members/{memberId}/return': turning('takeBackMember', 'A member who left is taken back, with proof', {
        type: 'object',
        properties: { confirmed: consent },
      }),
      '/v1/members/{memberId}/tags/{tag}': taking('untagMember', 'Take a tag off a member', 'tag'),
    },
    components: {
      securitySchemes: { key: { type: 'apiKey', in: 'header', name: 'X-Tern-Key' } },
      schemas: {
        Member: {
          type: 'object',
          properties: {
            id: text,
            email: text,
            state: { type: 'string', enum: ['active', 'left', 'refused'] },
            lists: texts,
            groups: texts,
            tags: texts,
            fields: { type: 'object', additionalProperties: true },
            joinedAt: { type: 'string', format: 'date-time' },
          },
        },
      },
    },
  };
}
