import { ValidateBy } from 'class-validator';
import { TEST_NAMES } from '../core/conditions/index.ts';

const DEEPEST = 4;
const MOST_PARTS = 20;

/** Whether something is a condition, or none: a tree of tests, neither deep nor wide. */
export function isCondition(value: unknown, depth = 0): boolean {
  if (value === null) return depth === 0;
  if (typeof value !== 'object' || depth > DEEPEST) return false;
  const { kind, of, field, test, value: asked, id } = value as Record<string, unknown>;
  if (kind === 'test') {
    const texts = [id, field, asked].every((text) => typeof text === 'string' && text.length <= 300);
    return texts && field !== '' && TEST_NAMES.some((name) => name === test);
  }
  const isGroup = kind === 'all' || kind === 'any' || kind === 'none';
  return isGroup && Array.isArray(of) && of.length <= MOST_PARTS && of.every((part) => isCondition(part, depth + 1));
}

/** Refuses what is neither a condition nor null. */
export const IsCondition = () =>
  ValidateBy({
    name: 'isCondition',
    validator: { validate: (value) => isCondition(value), defaultMessage: () => 'This is not a condition.' },
  });
