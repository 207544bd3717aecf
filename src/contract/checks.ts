import { plainToInstance, type ClassConstructor } from 'class-transformer';
import { validateSync, type ValidationError } from 'class-validator';

/** What is wrong with one part of a request. */
export interface PartIssue {
  /** JSON Pointer (RFC 6901) to the part. */
  pointer: string;
  detail: string;
}

export type Checked<T> = { ok: true; value: T } | { ok: false; issues: PartIssue[] };

/** Checks data against a contract class; unknown members are dropped. Used by the server and by the forms. */
export function check<T extends object>(type: ClassConstructor<T>, data: unknown): Checked<T> {
  // Anything but an object has none of the parts, and each is named as missing.
  const parts = typeof data === 'object' && data !== null && !Array.isArray(data) ? data : {};
  const found = judge(type, parts);
  if (found === null) return { ok: false, issues: [{ pointer: '', detail: NO_PART }] };
  const { value, errors } = found;
  return errors.length === 0
    ? { ok: true, value }
    : { ok: false, issues: errors.flatMap((error) => flatten(error, '')) };
}

const NO_PART = 'It holds a member that none can have here, such as "constructor", or half of a character.';

/**
 * What is checked goes by the class of each part, which a member of that name would replace; and a text of half a character can be
 * looked at by none of the checks.
 * @returns null for such parts
 */
function judge<T extends object>(
  type: ClassConstructor<T>,
  parts: object,
): { value: T; errors: ValidationError[] } | null {
  if (Object.hasOwn(parts, 'constructor') || Object.hasOwn(parts, '__proto__')) return null;
  try {
    const value = plainToInstance(type, parts);
    return { value, errors: validateSync(value, { whitelist: true, forbidUnknownValues: true }) };
  } catch {
    return null;
  }
}

function flatten(error: ValidationError, parent: string): PartIssue[] {
  const pointer = `${parent}/${error.property.replaceAll('~', '~0').replaceAll('/', '~1')}`;
  const own = Object.values(error.constraints ?? {})
    .slice(0, 1)
    .map((detail) => ({ pointer, detail }));
  return [...own, ...(error.children ?? []).flatMap((child) => flatten(child, pointer))];
}
