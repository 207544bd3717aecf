import { validationMetadatasToSchemas } from 'class-validator-jsonschema';
import { Problem, PUBLIC_API, type PublicOperation } from '../../contract/publicApi.ts';
import { SCOPES } from '../../contract/tokens.ts';

/** The API that tokens reach, as an OpenAPI 3.1 document: requests from the contract classes, answers from the contract's schemas. */
export function describeApi(publicUrl: string): object {
  const schemas = validationMetadatasToSchemas({ refPointerPrefix: '#/components/schemas/' });
  const bodies = PUBLIC_API.flatMap(({ body }) => (body ? [body.name] : []));
  const paths: Record<string, Record<string, object>> = {};
  for (const operation of PUBLIC_API)
    paths[operation.path] = { ...paths[operation.path], [operation.method]: describeOperation(operation) };
  return {
    openapi: '3.1.0',
    info: {
      title: 'Iwashi',
      version: '1',
      description: `What other programs may ask of this installation. A token is made under Account; it may do what its scopes say: ${Object.entries(
        SCOPES,
      )
        .map(([scope, meaning]) => `${scope} (${meaning})`)
        .join('; ')}.`,
    },
    servers: [{ url: `${publicUrl}/api` }],
    security: [{ token: [] }],
    paths,
    components: {
      securitySchemes: { token: { type: 'http', scheme: 'bearer' } },
      schemas: { ...Object.fromEntries(bodies.map((name) => [name, schemas[name]])), Problem },
    },
  };
}

function describeOperation({ method, path, summary, scope, query, body, answer }: PublicOperation): object {
  const inPath = [...path.matchAll(/\{(\w+)\}/g)].map(([, name]) => ({
    name,
    in: 'path',
    required: true,
    schema: { type: 'string' },
  }));
  const inQuery = Object.entries(query ?? {}).map(([name, description]) => ({
    name,
    in: 'query',
    description,
    schema: { type: 'string' },
  }));
  return {
    operationId: `${method}${path.replace(/\W+(\w)/g, (_, letter: string) => letter.toUpperCase()).replace(/\W/g, '')}`,
    summary,
    description: `Needs the scope ${scope}.`,
    parameters: [...inPath, ...inQuery],
    ...(body
      ? {
          requestBody: {
            required: true,
            content: { 'application/json': { schema: { $ref: `#/components/schemas/${body.name}` } } },
          },
        }
      : {}),
    responses: {
      200: { description: 'Done.', content: { 'application/json': { schema: answer } } },
      default: {
        description: 'What is wrong.',
        content: { 'application/problem+json': { schema: { $ref: '#/components/schemas/Problem' } } },
      },
    },
  };
}
