import { bad, good } from '../../result.ts';
import { neededMessage, parseFieldValue, sentFor, takesFile, type SourceField } from '../../values/index.ts';
import { entriesOf, type Entries, type SentFile } from '../payload.ts';
import { readFields, type Kind, type Reading } from '../reading.ts';
import { screen } from '../screening.ts';
import type { FormDocument } from '../source.ts';

/** A form: names with texts, whether a browser sends them or a program as a flat JSON object. */
export const form: Kind<FormDocument> = {
  read: ({ fields }, payload) => {
    const entries = payload.kind === 'entries' ? payload.entries : entriesOf(payload.json);
    if (entries === null) return { problem: 'The body is not a flat JSON object of texts, numbers and truth values.' };
    return [readEntries(fields, entries, payload.files)];
  },
  screen: ({ minimumSeconds }, { trap, elapsedSeconds }) => screen({ minimumSeconds }, trap, elapsedSeconds),
};

/** Reads entries against fields. Names that the source does not know are left in the raw payload only. */
const readEntries = (fields: SourceField[], entries: Entries, files: SentFile[]): Reading =>
  readFields(fields, (field) =>
    field.type === 'file' ? fileOf(field, files) : parseFieldValue(field, sentFor(field, entries)),
  );

function fileOf(field: SourceField, files: SentFile[]) {
  const sent = files.find(({ name }) => name === field.key);
  if (!sent) return field.required ? bad(neededMessage(field)) : good('');
  return takesFile(field, sent.value);
}
