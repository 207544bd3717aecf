import type { Context, MiddlewareHandler } from 'hono';
import type { TernPostState } from './state.ts';

/** The members of a problem document (RFC 9457). */
export const problemParts = (status: number, type: string, title: string, more: object = {}) => ({
  type: `https://tern-post.example/problems/${type}`,
  title,
  status,
  ...more,
});

/** A problem document (RFC 9457). */
export const problem = (
  c: Context,
  status: 400 | 401 | 403 | 404 | 409 | 422,
  type: string,
  title: string,
  more: object = {},
) =>
  c.newResponse(JSON.stringify(problemParts(status, type, title, more)), status, {
    'content-type': 'application/problem+json',
  });

/**
 * The key of a request: in its own header, as a bearer token (RFC 6750), as the password of the user "key" (RFC 7617), or
 * as the parameter `tern_key`.
 */
export function keyIn(c: Context): string | undefined {
  const [scheme = '', value = ''] = (c.req.header('authorization') ?? '').split(' ');
  switch (scheme.toLowerCase()) {
    case 'bearer':
      return value;
    case 'basic':
      return /^key:(.*)$/.exec(Buffer.from(value, 'base64').toString())?.[1];
    default:
      return c.req.header('x-tern-key') ?? c.req.query('tern_key');
  }
}

/** Lets only requests through whose key is good and has the permission; '' for any good key. */
export const needsKey =
  (state: () => TernPostState, permission: string): MiddlewareHandler =>
  async (c, next) => {
    const given = keyIn(c);
    const key = state().keys.find((candidate) => candidate.key === given);
    if (!key || key.revoked) return problem(c, 401, 'unknown-key', 'This key is not known.');
    if (permission !== '' && !key.permissions.includes(permission))
      return problem(c, 403, 'not-permitted', `The key lacks ${permission}.`);
    return next();
  };
