/** A payload as a form sends it: names with text values, in order; a name may come several times. */
export type Entries = [name: string, value: string][];

/** A submission as it arrived, without secrets. */
export interface RawSubmission {
  contentType: string;
  entries: Entries;
  headers: Record<string, string>;
}

/** Decodes `application/x-www-form-urlencoded` (WHATWG URL, 5.1). */
export function readUrlencoded(body: string): Entries {
  return [...new URLSearchParams(body)];
}

/**
 * Reads a flat JSON object as entries: texts, numbers, truth values, null, and lists of those.
 * @returns null when the text is not such an object
 */
export function readJson(body: string): Entries | null {
  let data: unknown;
  try {
    data = JSON.parse(body);
  } catch {
    return null;
  }
  if (typeof data !== 'object' || data === null || Array.isArray(data)) return null;
  const entries: Entries = [];
  for (const [name, value] of Object.entries(data)) {
    for (const item of Array.isArray(value) ? value : [value]) {
      if (item === null) continue;
      if (typeof item === 'object') return null;
      entries.push([name, String(item)]);
    }
  }
  return entries;
}
