import { depthOf } from './depth.ts';

/**
 * What a JSON text holds; undefined, which no JSON text can hold, when it is none, or is nested deeper.
 * @param deepest how deep it may nest
 */
export function parseJson(text: string, deepest = Infinity): unknown {
  if (deepest !== Infinity && depthOf(text) > deepest) return undefined;
  try {
    return JSON.parse(text) as unknown;
  } catch {
    return undefined;
  }
}

/** A text, or a whole number of so many digits that a number of JavaScript may not keep its last ones (IEEE 754: 2^53). */
const TEXT_OR_LONG = /"(?:[^"\\]|\\.)*"|-?\d{16,}(?![\d.eE])/g;

/** The same, with whole numbers that a number would change as texts: ids of other systems are such ones. */
export function parseJsonExactly(text: string): unknown {
  if (!/\d{16}/.test(text)) return parseJson(text);
  return parseJson(
    text.replace(TEXT_OR_LONG, (part, at: number) =>
      part.startsWith('"') || /[\d.]/.test(text.charAt(at - 1)) || Number.isSafeInteger(Number(part))
        ? part
        : `"${part}"`,
    ),
  );
}
