import { asksAll, walk, type WalkFacts } from '../../forms/index.ts';
import { bad, good } from '../../result.ts';
import { neededMessage, parseFieldValue, sentFor, takesFile, type SourceField } from '../../values/index.ts';
import { entriesOf, type Entries, type SentFile } from '../payload.ts';
import { readEach, type Kind, type Reading } from '../reading.ts';
import { screen } from '../screening.ts';
import type { FormDocument } from '../source.ts';

/** A form: names with texts, whether a browser sends them or a program as a flat JSON object. */
export const form: Kind<FormDocument> = {
  read: (document, payload, facts) => {
    const entries = payload.kind === 'entries' ? payload.entries : entriesOf(payload.json);
    if (entries === null) return { problem: 'The body is not a flat JSON object of texts, numbers and truth values.' };
    return [asAsked(document, readEntries(document.fields, entries, payload.files), facts)];
  },
  screen,
};

/** Reads entries against fields. Names that the source does not know are left in the raw payload only. */
const readEntries = (fields: SourceField[], entries: Entries, files: SentFile[]) =>
  readEach(fields, (field) =>
    field.type === 'file' ? fileOf(field, files) : parseFieldValue(field, sentFor(field, entries)),
  );

/**
 * What was asked of this visitor, by the answers themselves: anything else that came along is left out, and what is wrong with it
 * does not matter.
 */
function asAsked(
  document: FormDocument,
  { values, issues }: ReturnType<typeof readEach>,
  facts: Omit<WalkFacts, 'values'>,
): Reading {
  // Most forms ask everybody everything: nobody waits for a walk that can only lead there.
  if (asksAll(document)) return issues.length > 0 ? { ok: false, issues } : { ok: true, values };
  const { shown } = walk(document, { ...facts, values });
  const isAsked = ({ id, widget }: SourceField) => widget === 'hidden' || shown.has(id);
  const mattering = issues.filter(({ field }) => document.fields.some((one) => one.key === field && isAsked(one)));
  if (mattering.length > 0) return { ok: false, issues: mattering };
  const asked = document.fields.filter(isAsked).map(({ id }) => id);
  return { ok: true, values: Object.fromEntries(Object.entries(values).filter(([id]) => asked.includes(id))) };
}

function fileOf(field: SourceField, files: SentFile[]) {
  const sent = files.find(({ name }) => name === field.key);
  if (!sent) return field.required ? bad(neededMessage(field)) : good('');
  return takesFile(field, sent.value);
}
