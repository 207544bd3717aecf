import { dereference, validate } from '@readme/openapi-parser';
import { parse as parseYaml } from 'yaml';
import { bad, good, type Result } from '../../../core/result.ts';
import { staysSmall } from './bounds.ts';
import type { Schema } from './schemaWords.ts';

/** One operation of a described API, as far as proposals read it. */
export interface Operation {
  id: string;
  method: 'GET' | 'POST' | 'PUT' | 'PATCH' | 'DELETE';
  path: string;
  summary: string;
  parameters: { name: string; in: string }[];
  body: Schema | null;
  /** How the body is sent. */
  encoding: 'json' | 'form';
  /** What a success answers. */
  answer: Schema | null;
}

export interface SecurityScheme {
  type: string;
  in?: string;
  name?: string;
  scheme?: string;
  flows?: Record<string, { authorizationUrl?: string; tokenUrl?: string; scopes?: Record<string, string> }>;
}

/** An API as its OpenAPI document describes it. */
export interface ApiDescription {
  title: string;
  about: string;
  server: string;
  security: SecurityScheme[];
  operations: Operation[];
}

const METHODS = ['get', 'post', 'put', 'patch', 'delete'] as const;

type Loose = Record<string, unknown>;
const object = (value: unknown): Loose => (typeof value === 'object' && value !== null ? (value as Loose) : {});
const list = (value: unknown): unknown[] => (Array.isArray(value) ? value : []);
const text = (value: unknown): string => (typeof value === 'string' ? value : '');

/** Reads an OpenAPI 3.0 or 3.1 document, in JSON or YAML. References that lead out of the document are not followed. */
export async function readOpenApi(source: string): Promise<Result<ApiDescription>> {
  let document: Loose;
  try {
    document = object(parseYaml(source, { maxAliasCount: 50 }));
  } catch {
    return bad('This is neither JSON nor YAML.');
  }
  if (!/^3\.[01]/.test(text(document.openapi)))
    return bad('This is not an OpenAPI 3.0 or 3.1 document: it has no "openapi: 3…" at its top.');
  if (!staysSmall(document))
    return bad('Its references unfold to more than can be read. Give a description with fewer or flatter schemas.');
  const options = { resolve: { external: false as const } };
  try {
    const checked = await validate(structuredClone(document) as never, options);
    if (!checked.valid)
      return bad(
        `The document does not follow OpenAPI: ${checked.errors
          .map(({ message }) => message)
          .slice(0, 3)
          .join('; ')}`,
      );
    document = object(await dereference(document as never, { ...options, dereference: { circular: 'ignore' } }));
  } catch (error) {
    return bad(
      `The document cannot be read: ${error instanceof Error ? error.message.split('\n')[0] : 'unknown fault'}`,
    );
  }
  const operations = operationsOf(document);
  if (operations.length === 0) return bad('The document describes no operations.');
  const info = object(document.info);
  return good({
    title: text(info.title),
    about: text(info.description),
    server: text(object(list(document.servers)[0]).url).replace(/\/+$/, ''),
    security: securityOf(document),
    operations,
  });
}

function operationsOf(document: Loose): Operation[] {
  return Object.entries(object(document.paths)).flatMap(([path, item]) =>
    METHODS.flatMap((method): Operation[] => {
      const operation = object(object(item)[method]);
      if (Object.keys(operation).length === 0) return [];
      const content = object(object(operation.requestBody).content);
      const isForm = !('application/json' in content) && 'application/x-www-form-urlencoded' in content;
      const type = isForm ? 'application/x-www-form-urlencoded' : 'application/json';
      const schema = object(content[type]).schema;
      return [
        {
          id: text(operation.operationId) || `${method} ${path}`,
          method: method.toUpperCase() as Operation['method'],
          path,
          summary: text(operation.summary) || text(operation.description).slice(0, 100),
          parameters: [...list(object(item).parameters), ...list(operation.parameters)].map((parameter) => ({
            name: text(object(parameter).name),
            in: text(object(parameter).in),
          })),
          body: schema === undefined ? null : schema,
          encoding: isForm ? 'form' : 'json',
          answer: answerOf(object(operation.responses)),
        },
      ];
    }),
  );
}

function answerOf(responses: Loose): Schema | null {
  const success = Object.keys(responses).find((status) => /^2/.test(status));
  const content = object(object(success ? responses[success] : null).content);
  const type = Object.keys(content).find((name) => name.includes('json'));
  const schema = type ? object(content[type]).schema : undefined;
  return schema === undefined ? null : schema;
}

/** The ways of authentication that the whole API asks for; all that it knows, when it does not say. */
function securityOf(document: Loose): SecurityScheme[] {
  const schemes = object(object(document.components).securitySchemes);
  const asked = list(document.security).flatMap((entry) => Object.keys(object(entry)));
  const names = asked.length > 0 ? asked : Object.keys(schemes);
  return names.flatMap((name) => (name in schemes ? [schemes[name] as SecurityScheme] : []));
}
