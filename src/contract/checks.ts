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
  const value = plainToInstance(type, parts);
  const errors = validateSync(value, { whitelist: true, forbidUnknownValues: true });
  return errors.length === 0
    ? { ok: true, value }
    : { ok: false, issues: errors.flatMap((error) => flatten(error, '')) };
}

function flatten(error: ValidationError, parent: string): PartIssue[] {
  const pointer = `${parent}/${error.property.replaceAll('~', '~0').replaceAll('/', '~1')}`;
  const own = Object.values(error.constraints ?? {})
    .slice(0, 1)
    .map((detail) => ({ pointer, detail }));
  return [...own, ...(error.children ?? []).flatMap((child) => flatten(child, pointer))];
}
