import { bad, good } from '../../result.ts';
import type { ValueType } from '../type.ts';

/** Longest texts that are taken, in UTF-16 units. */
export const LINE_LIMIT = 2_000;
export const TEXT_LIMIT = 20_000;

/** A text in one line, without blanks at its ends or doubled ones inside. */
export function oneLine(written: string): string {
  const trimmed = written.trim();
  // Most texts have nothing to take out, and looking is quicker than writing them anew.
  return /[^\S ]| {2}/.test(trimmed) ? trimmed.replace(/\s+/g, ' ') : trimmed;
}

/** One line of text: what would break the line, control something or be half a character is taken out. */
export const text: ValueType<string> = {
  parse: (written) => {
    const line = oneLine(withoutControls(written));
    return line.length > LINE_LIMIT ? bad(`This is longer than ${LINE_LIMIT} characters.`) : good(line);
  },
  print: (value) => value,
  same: (a, b) => a === b,
  edgeCases: ['Zoë Ångström', "O'Neill-Ó Súilleabháin", 'x'.repeat(LINE_LIMIT), '😀 👩‍🚀'],
};

/** Text of several lines. Line ends are \n; blanks at the ends are taken off. */
export const longText: ValueType<string> = {
  parse: (written) => {
    const lines = withoutControls(written.replace(/\r\n?/g, '\n')).trim();
    return lines.length > TEXT_LIMIT ? bad(`This is longer than ${TEXT_LIMIT} characters.`) : good(lines);
  },
  print: (value) => value,
  same: (a, b) => a === b,
  edgeCases: ['one\ntwo', 'one\r\n\r\ntwo'],
};

/** Unicode's control characters (category Cc) but tab and line ends, marks that turn the direction of writing, and lone surrogates. */
export function withoutControls(written: string): string {
  // Most that is written has none of it, which one look at it tells.
  if (/^[\x20-\x7E]*$/.test(written)) return written;
  return written
    .replace(/[\uD800-\uDBFF](?![\uDC00-\uDFFF])|(?<![\uD800-\uDBFF])[\uDC00-\uDFFF]/g, '')
    .replace(/[^\P{Cc}\t\n\r]|[\u202A-\u202E\u2066-\u2069]/gu, '');
}
