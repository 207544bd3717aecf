import { parse } from 'shell-quote';
import { PROFILE_FORMAT, PROFILE_WHAT, type Profile, type RequestTemplate } from '../../../contract/profile/index.ts';
import type { DestinationField } from '../../../core/mapping/index.ts';
import { bad, good, type Result } from '../../../core/result.ts';
import { idFrom } from './fromOpenApi.ts';
import { authenticationOf } from './security.ts';
import { EMAIL } from './schemaWords.ts';

/** What a cURL line asks for. */
export interface ExampleRequest {
  method: string;
  url: URL;
  headers: [name: string, value: string][];
  body: string;
  user: string;
}

const TAKES_VALUE: Record<string, keyof Pick<ExampleRequest, 'method' | 'body' | 'user'> | 'header' | 'ignored'> = {
  '-X': 'method',
  '--request': 'method',
  '-H': 'header',
  '--header': 'header',
  '-d': 'body',
  '--data': 'body',
  '--data-raw': 'body',
  '--data-binary': 'body',
  '--data-urlencode': 'body',
  '--json': 'body',
  '-u': 'user',
  '--user': 'user',
  '-o': 'ignored',
  '--output': 'ignored',
  '--max-time': 'ignored',
};

/** Reads a cURL line as it stands in a service's documentation. */
export function readCurl(line: string): Result<ExampleRequest> {
  const words = parse(line.replace(/\\\r?\n/g, ' ')).filter((word): word is string => typeof word === 'string');
  if (words[0] !== 'curl') return bad('The line has to begin with curl.');
  const request = {
    method: '',
    url: '',
    headers: [] as [string, string][],
    body: [] as string[],
    user: '',
    json: false,
  };
  for (let index = 1; index < words.length; index += 1) {
    const word = words[index] ?? '';
    const part = TAKES_VALUE[word];
    if (part === undefined) {
      if (!word.startsWith('-')) request.url = word;
      continue;
    }
    const value = words[(index += 1)] ?? '';
    if (word === '--json') request.json = true;
    if (part === 'header') {
      const [name = '', ...rest] = value.split(':');
      request.headers.push([name.trim(), rest.join(':').trim()]);
    } else if (part === 'body') request.body.push(value);
    else if (part === 'method' || part === 'user') request[part] = value;
  }
  if (!URL.canParse(request.url)) return bad('There is no whole address (from https:// on) in the line.');
  const body = request.body.join('&');
  return good({
    method: request.method.toUpperCase() || (body === '' ? 'GET' : 'POST'),
    url: new URL(request.url),
    headers: request.json ? [...request.headers, ['Content-Type', 'application/json']] : request.headers,
    body,
    user: request.user,
  });
}

/**
 * Proposes a profile that sends such a request for each person: the address in it becomes the person's, other values
 * become fields, and what looks like a key is asked for when connecting. Credentials of the example are not kept.
 */
export function profileFromCurl(request: ExampleRequest): Profile {
  const { url, headers, method } = request;
  const isSecretAddress = url.pathname.split('/').some(isSecretPart);
  const { template, fields } = bodyOf(request);
  const open = headers.filter(
    ([name]) => !isSecret(name) && !/^(content-type|accept|content-length|host|user-agent|cookie)$/i.test(name),
  );
  return {
    what: PROFILE_WHAT,
    format: PROFILE_FORMAT,
    id: idFrom(url.hostname),
    name: url.hostname.slice(0, 60),
    purpose: 'a service of your own',
    words: [],
    speaks: 'http',
    ...(isSecretAddress
      ? {
          baseUrl: {
            label: 'Address',
            help: 'The whole address, which is the secret: it is kept with the connection only.',
            preset: '',
          },
          credentials: [],
          authentication: { kind: 'secret address' as const },
        }
      : {
          baseUrl: { label: 'Base URL', help: 'From the example.', preset: url.origin },
          ...authenticationFor(request),
        }),
    catalogue: { fields: { fixed: fields } },
    write: {
      how: 'add',
      add: {
        request: {
          method: (['POST', 'PUT', 'PATCH'].includes(method) ? method : 'POST') as RequestTemplate['method'],
          path: isSecretAddress ? openQuery(url) : url.pathname + openQuery(url),
          ...template,
          ...(open.length > 0 ? { headers: Object.fromEntries(open) } : {}),
        },
      },
    },
    record: {},
    errors: [],
    limits: {},
  };
}

const isSecret = (name: string): boolean => /auth|key|token|secret|signature|passw|pwd|credential|session/i.test(name);

/** A part of a path that nobody can guess: long, of letters and digits in no order, and no id of the form that ids have (RFC 9562). */
const isSecretPart = (part: string): boolean =>
  part.length >= 16 &&
  /\d/.test(part) &&
  /[a-z]/i.test(part) &&
  /^[\w~.-]+$/.test(part) &&
  !/^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/i.test(part);

/** The query without what looks like a key; braces are not templates here. */
function openQuery(url: URL): string {
  const open = [...url.searchParams].filter(([name]) => !isSecret(name));
  return open.length > 0 ? `?${new URLSearchParams(open).toString()}` : '';
}

function authenticationFor({ url, headers, user }: ExampleRequest) {
  const secret = headers.find(([name]) => isSecret(name));
  const [name = '', value = ''] = secret ?? [];
  const inQuery = [...url.searchParams.keys()].find(isSecret);
  if (user !== '' || /^basic /i.test(value)) return authenticationOf([{ type: 'http', scheme: 'basic' }]);
  if (/^bearer /i.test(value)) return authenticationOf([{ type: 'http', scheme: 'bearer' }]);
  if (secret) {
    const known = authenticationOf([{ type: 'apiKey', in: 'header', name }]);
    const prefix = /^(\w+ )\S+$/.exec(value)?.[1];
    return prefix && known.authentication.kind === 'key in header'
      ? { ...known, authentication: { ...known.authentication, prefix } }
      : known;
  }
  return inQuery ? authenticationOf([{ type: 'apiKey', in: 'query', name: inQuery }]) : authenticationOf([]);
}

function bodyOf({ body, headers }: ExampleRequest): {
  template: Pick<RequestTemplate, 'body' | 'encoding'>;
  fields: DestinationField[];
} {
  const type = headers.find(([name]) => /^content-type$/i.test(name))?.[1] ?? '';
  const fields: DestinationField[] = [];
  const take = (name: string, value: unknown): unknown => {
    if (Array.isArray(value)) return value.map((item) => take(name, item));
    if (typeof value === 'object' && value !== null)
      return Object.fromEntries(Object.entries(value).map(([key, item]) => [key, take(key, item)]));
    if (EMAIL.test(name) || (typeof value === 'string' && /^\S+@\S+\.\S+$/.test(value))) return '$email';
    if (!fields.some(({ key }) => key === name)) fields.push(fieldFor(name, value));
    return `$fields.${name}`;
  };
  const asJson = type.includes('json') || /^\s*[[{]/.test(body);
  if (asJson) {
    try {
      return { template: { body: take('', JSON.parse(body)) }, fields };
    } catch {
      return { template: { encoding: 'text', body }, fields };
    }
  }
  if (body === '') return { template: {}, fields };
  const entries = [...new URLSearchParams(body)].map(([name, value]) => [name, take(name, value)]);
  return { template: { encoding: 'form', body: Object.fromEntries(entries) as object }, fields };
}

const fieldFor = (name: string, value: unknown): DestinationField => ({
  key: name,
  label: name.replace(/[_-]+/g, ' ').replace(/^./, (letter) => letter.toUpperCase()),
  type: typeof value === 'number' ? 'number' : typeof value === 'boolean' ? 'yes/no' : 'text',
  required: false,
  choices: [],
  maxLength: null,
});
