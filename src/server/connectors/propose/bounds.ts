/** A document that unfolds to more than this is none that people write: it would only keep the machine busy. */
export const MOST_PARTS = 200_000;
const DEEPEST = 100;

/**
 * Whether a description stays small when each of its references is replaced by what it refers to. Twenty schemas, each of
 * which names the next one twice, are a short document and a million parts. What refers to itself counts once.
 * @param document JSON, with references into itself only
 */
export function staysSmall(document: unknown): boolean {
  const known = new Map<string, number>();

  function partsOf(value: unknown, depth: number): number {
    if (depth > DEEPEST) return Infinity;
    if (typeof value !== 'object' || value === null) return 1;
    if ('$ref' in value && typeof value.$ref === 'string') return partsBehind(value.$ref, depth);
    let parts = 1;
    for (const member of Object.values(value)) {
      parts += partsOf(member, depth + 1);
      if (parts > MOST_PARTS) return Infinity;
    }
    return parts;
  }

  function partsBehind(reference: string, depth: number): number {
    const counted = known.get(reference);
    if (counted !== undefined) return counted;
    known.set(reference, 1);
    const parts = partsOf(partAt(document, reference), depth + 1);
    known.set(reference, parts);
    return parts;
  }

  return partsOf(document, 0) <= MOST_PARTS;
}

/** What a reference within the document means: a JSON Pointer (RFC 6901) behind a #. */
function partAt(document: unknown, reference: string): unknown {
  if (!reference.startsWith('#/')) return null;
  return reference
    .slice(2)
    .split('/')
    .map((step) => decode(step).replaceAll('~1', '/').replaceAll('~0', '~'))
    .reduce<unknown>(
      (at, step) => (typeof at === 'object' && at !== null ? (at as Record<string, unknown>)[step] : null),
      document,
    );
}

function decode(step: string): string {
  try {
    return decodeURIComponent(step);
  } catch {
    return step;
  }
}
