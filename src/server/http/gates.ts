import type { Handler, Hono, MiddlewareHandler } from 'hono';
import type { Permission } from '../../contract/permissions.ts';
import { isScope } from '../../contract/permissions.ts';
import type { Scope } from '../../contract/tokens.ts';
import type { Actor } from '../commands/command.ts';
import { Problem } from './problems.ts';

/** What a request of the API carries, once it is known whose it is. */
export interface Session {
  Variables: {
    actor: Actor;
    /** What the token may do; 'everything' for a person who is signed in. */
    may: Scope[] | 'everything';
    /** The session's token against forged requests; '' where a token was sent. */
    csrf: string;
    email: string;
  };
}

const GATES = new WeakMap<object, Permission>();

/** Lets those through who have a permission. Every address of the API stands behind one: see `ungated`. */
export function allow(permission: Permission): MiddlewareHandler<Session> {
  const gate: MiddlewareHandler<Session> = async (c, next) => {
    const may = c.get('may');
    if (may !== 'everything') {
      if (!isScope(permission))
        throw new Problem(403, 'not-for-tokens', 'This is not open to tokens; see /api/openapi.json.');
      if (!may.includes(permission)) throw scopeMissing(permission);
    }
    await next();
  };
  GATES.set(gate, permission);
  return gate;
}

export const scopeMissing = (scope: Scope): Problem =>
  new Problem(403, 'scope-missing', `The token lacks ${scope}.`, [], {
    'www-authenticate': `Bearer error="insufficient_scope", scope="${scope}"`,
  });

/** The addresses of an API, each with what it may be asked for; null where no gate stands before it. */
export function gatesOf({ routes }: Pick<Hono<Session>, 'routes'>): Map<string, Permission | null> {
  const gates = new Map<string, Permission | null>();
  for (const { method, path, handler } of routes) {
    if (method === 'ALL') continue;
    const address = `${method} ${path}`;
    gates.set(address, gates.get(address) ?? GATES.get(handler as Handler) ?? null);
  }
  return gates;
}
