import type { SourceField } from '../../../values/index.ts';

/** The answers that a field can have, as they come; none where anything can come. */
export function answersOf({ type, options }: SourceField): string[] {
  if (type === 'yes/no') return ['yes', 'no'];
  return type === 'choice' || type === 'several choices' ? options : [];
}
