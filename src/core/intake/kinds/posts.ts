import { isObject } from '../../documents/index.ts';
import { bad, good, type Result } from '../../result.ts';
import {
  holds,
  isListOfRecords,
  neededMessage,
  parseChoice,
  parseFieldValue,
  readRecords,
  takesFile,
  typeOf,
  UNKNOWN_MANNER,
  type FieldValue,
  type SourceField,
} from '../../values/index.ts';
import { jsonOf, type SentFile } from '../payload.ts';
import { inZone, readMembership } from '../membership.ts';
import { isInParts } from '../membershipPaths.ts';
import { foundFor, type Located } from '../places.ts';
import { readFields, type Kind, type Reading } from '../reading.ts';
import type { PostedDocument, RegistrationDocument } from '../source.ts';
import { allParts, takenParts, type Part } from '../webhook.ts';

/** Most submissions in one payload. */
const PARTS_LIMIT = 200;

/** JSON or form posts from elsewhere: each field says where it stands in the payload, and one payload can be several submissions. */
export const posts: Kind<PostedDocument> = {
  read: (document, payload) => {
    const json = jsonOf(payload);
    if (typeof json !== 'object' || json === null) return { problem: 'The body is neither an object nor a list.' };
    const found = allParts(document, json);
    if (found.length === 0) return { problem: `Nothing stands at ${document.each}, where the submissions should be.` };
    const parts = takenParts(document, json);
    if (parts.length > PARTS_LIMIT) return { problem: `These are more than ${PARTS_LIMIT} submissions in one.` };
    return parts.map((part, index) => {
      const reading = readPart(document, part, payload.files);
      return reading.ok || (document.each === '' && found.length === 1)
        ? reading
        : { ok: false, issues: reading.issues.map((issue) => ({ ...issue, part: index })) };
    });
  },
  // Another system sends, and it has no eyes to be caught by.
  screen: () => null,
};

const readPart = (document: PostedDocument, { whole, part }: Part, files: SentFile[]): Reading =>
  readFields(document.fields, (field) => {
    if (document.kind === 'registration' && field.id === document.membershipField)
      return readMember(document, field, whole, part);
    const found = foundFor(field, whole, part).map(({ value }) => value);
    return field.type === 'file' ? readFile(field, found, files) : readFound(field, found);
  });

/** A membership, as one of the site's zone: the object that stands there, or what stands in several places. */
function readMember(document: RegistrationDocument, field: SourceField, whole: Located, part: Located) {
  const { membershipPaths: paths, zone } = document;
  const read = isInParts(paths)
    ? readMembership(field, { paths, zone }, whole, part)
    : readFound(
        field,
        foundFor(field, whole, part).map(({ value }) => value),
      );
  return read.ok ? good(inZone(read.value, zone)) : read;
}

/** A file that was sent beside the payload under the field's name, or stood in it and was stored. */
function readFile(field: SourceField, found: unknown[], files: SentFile[]): Result<FieldValue> {
  const ids = found.map((value) => (isObject(value) ? value.file : undefined));
  const sent = files.find(({ name, value }) => name === field.key || ids.includes(value.file));
  if (sent) return takesFile(field, sent.value);
  if (found.some((value) => value !== null && value !== ''))
    return bad(
      `${field.label} is not a file: send it beside the JSON, as a data: URL, or as its name and Base64 content.`,
    );
  return field.required ? bad(neededMessage(field)) : good('');
}

/** Reads what was found for a field, by its type: JSON says itself what is a number, and what is true. */
function readFound(field: SourceField, found: unknown[]): Result<FieldValue> {
  const given = found.filter((value) => value !== null && value !== undefined && value !== '');
  if (given.length === 0)
    return field.required ? bad(neededMessage(field)) : good(field.preset === '' ? '' : field.preset);
  const [first] = given;
  switch (field.type) {
    case 'list of records':
      if (isListOfRecords(first)) return readRecords(first);
      // XML does not tell one in a list from one by itself.
      return isListOfRecords(given) ? readRecords(given) : readText(field, first);
    case 'several choices':
      return readAnswers(
        field,
        given.flatMap((value) => (Array.isArray(value) ? (value as unknown[]) : [value])),
      );
    case 'choice':
      return readAnswers(field, given);
    case 'yes/no':
      return typeof first === 'boolean' ? good(first) : readText(field, first);
    case 'number':
      return typeof first === 'number' && Number.isFinite(first) ? good(first) : readText(field, first);
    case 'money':
      return isObject(first)
        ? readText(field, `${String(first.amount)} ${String(first.currency)}`)
        : readText(field, first);
    case 'person name':
    case 'postal address':
    case 'membership':
      return holds(field.type, first) ? good(oneLine(first)) : readText(field, first);
    default:
      return readText(field, first);
  }
}

function readAnswers(field: SourceField, found: unknown[]): Result<FieldValue> {
  const texts = found.map(textOf);
  if (texts.includes(null)) return bad(`${field.label} is not a text.`);
  const answers = texts as string[];
  // Where no answers are listed, any is one.
  return parseChoice(
    field.options.length === 0 ? { ...field, options: answers.map((text) => text.trim()) } : field,
    answers,
  );
}

function readText(field: SourceField, value: unknown): Result<FieldValue> {
  const text = textOf(value);
  if (text === null) return bad(`${field.label} is a list or an object, where ${field.type} is expected.`);
  if (field.type === 'yes/no') return typeOf('yes/no').parse(text, UNKNOWN_MANNER);
  return parseFieldValue(field, [text]);
}

const textOf = (value: unknown): string | null =>
  typeof value === 'string' || typeof value === 'number' || typeof value === 'boolean' ? String(value) : null;

/** The parts of a value, each as one line of text. */
function oneLine(value: FieldValue): FieldValue {
  const lines = Object.entries(value).map(([name, text]): [string, FieldValue] => {
    const line = typeOf('text').parse(String(text), UNKNOWN_MANNER);
    return [name, line.ok ? line.value : ''];
  });
  return Object.fromEntries(lines) as unknown as FieldValue;
}
