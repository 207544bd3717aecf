import Type, { type Static, type TProperties } from 'typebox';

/** An object that takes nothing else than its own members, so that a typing mistake in a profile is found. */
export const closed = <Members extends TProperties>(members: Members, description = '') =>
  Type.Object(members, { additionalProperties: false, ...(description ? { description } : {}) });

export const oneOf = <const Words extends string[]>(words: readonly [...Words], description = '') =>
  Type.Enum([...words], description ? { description } : {});

export const JsonPath = Type.String({
  pattern: '^\\$',
  maxLength: 300,
  description: 'A JSONPath (RFC 9535), read against the answer, or against one item or record of it.',
});

export const RequestTemplate = closed(
  {
    method: oneOf(['GET', 'POST', 'PUT', 'PATCH', 'DELETE']),
    path: Type.String({
      // Nothing that could become part of the host: a path, a query, or a template of one.
      pattern: '^(/|\\?|\\{[/?]|$)',
      maxLength: 500,
      description: 'A URI Template (RFC 6570), appended to the base URL.',
    }),
    encoding: Type.Optional(oneOf(['json', 'form', 'text'], 'How the body is sent; JSON unless said.')),
    body: Type.Optional(
      Type.Unknown({
        description:
          'The body. A text that begins with $ stands for a value ($email, $key, $fields, $fields.name …); a member whose value is absent is left out; the member "..." spreads an object into its parent.',
      }),
    ),
    headers: Type.Optional(Type.Record(Type.String(), Type.String())),
    idempotencyHeader: Type.Optional(
      Type.String({
        description: "The header that carries the delivery's idempotency key, where the service takes one.",
      }),
    ),
  },
  'One request.',
);

export const Paging = Type.Union(
  [
    closed({ kind: Type.Literal('cursor'), next: JsonPath }, 'The path has {cursor}; the answer names the next one.'),
    closed(
      {
        kind: Type.Literal('page number'),
        first: Type.Optional(Type.Integer({ minimum: 0, maximum: 1 })),
        pages: Type.Optional(JsonPath),
      },
      'The path has {page}; the answer may say how many there are.',
    ),
    closed(
      { kind: Type.Literal('offset'), size: Type.Integer({ minimum: 1 }), total: Type.Optional(JsonPath) },
      'The path has {offset} and may have {limit}.',
    ),
    closed({ kind: Type.Literal('link') }, 'The answer has a Link header (RFC 8288) with rel="next".'),
  ],
  { description: 'How a list goes on; absent when it comes whole.' },
);

export type RequestTemplate = Static<typeof RequestTemplate>;
export type Paging = Static<typeof Paging>;

/** The variables of a URI Template (RFC 6570, 2.3), each with the operator of its expression; '' for a simple one. */
export const variablesIn = (template: string): { name: string; operator: string }[] =>
  [...template.matchAll(/\{([+#./;?&]?)([^}]*)\}/g)].flatMap(([, operator = '', variables = '']) =>
    variables.split(',').map((variable) => ({ operator, name: variable.replace(/(\*|:\d+)$/, '') })),
  );
const hasVariable = (template: string, wanted: string): boolean =>
  variablesIn(template).some(({ name }) => name === wanted);
const textOf = (body: unknown): string => JSON.stringify(body ?? '');

const uses = ({ path, body }: RequestTemplate, variable: string): boolean =>
  hasVariable(path, variable) || textOf(body).includes(`"$${variable}"`);

/** By what a request says whom it is about, in its path or its body: an address, or any key of theirs; null when by nothing. */
export function namesBy(request: RequestTemplate): 'email' | 'key' | null {
  if (uses(request, 'key')) return 'key';
  return uses(request, 'email') ? 'email' : null;
}

/** Whether a request looks for it in a field that the mapping decides. */
export const looksInField = (request: RequestTemplate): boolean =>
  uses(request, 'emailField') || uses(request, 'keyField');
