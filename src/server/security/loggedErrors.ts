import { pino } from 'pino';

/**
 * An error as it may be logged: what was handed to the database, which may be anything that a visitor sent, is taken out of
 * its message, its stack and its members.
 */
export function loggedError(error: Error): object {
  return without(pino.stdSerializers.err(error));
}

const PARAMETERS = /\nparams:[\s\S]*?(?=\n {4}at |\ncaused by:|$)/g;

function without(value: unknown): object {
  if (typeof value !== 'object' || value === null) return {};
  return Object.fromEntries(
    Object.entries(value).flatMap(([name, member]): [string, unknown][] => {
      if (name === 'params' || name === 'sql' || name === 'raw') return [];
      if (typeof member === 'string') return [[name, member.replace(PARAMETERS, '')]];
      return [[name, typeof member === 'object' && member !== null ? without(member) : member]];
    }),
  );
}
