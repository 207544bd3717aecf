import type { Result } from '../../core/result.ts';
import type { Refusal } from '../commands/command.ts';
import { Problem } from './problems.ts';

const STATUS: Record<Refusal['why'], Problem['status']> = {
  unknown: 404,
  invalid: 422,
  conflict: 409,
  stale: 412,
  forbidden: 403,
};

/** What a use case ended with. @throws Problem when it was refused */
export function outcome<Value>(result: Result<Value, Refusal>): Value {
  if (result.ok) return result.value;
  const { why, slug, text, issues } = result.issue;
  throw new Problem(STATUS[why], slug, text, issues);
}
