import { XMLParser } from 'fast-xml-parser';
import { SyntaxValidator } from 'fast-xml-validator';
import { depthOf, parseJson, parseJsonExactly } from '../json/index.ts';
import { bad, good, type Result } from '../result.ts';
import { readFormBody, type Payload } from './payload.ts';

/** How a body is written that programs send. */
export type Writing = 'json' | 'lines' | 'xml' | 'form';

/**
 * How a body is written: by its media type, or, where that says nothing, by how it begins.
 * @param mediaType without parameters, in small letters; '' for none
 * @returns null for what is none of them
 */
export function writingOf(mediaType: string, body: string): Writing | null {
  if (mediaType === 'application/json' || mediaType.endsWith('+json')) return 'json';
  if (LINES.includes(mediaType)) return 'lines';
  if (mediaType === 'application/xml' || mediaType === 'text/xml' || mediaType.endsWith('+xml')) return 'xml';
  if (mediaType === 'application/x-www-form-urlencoded') return 'form';
  if (!UNTOLD.includes(mediaType)) return null;
  const first = body.trimStart().charAt(0);
  if (first === '<') return 'xml';
  if (first !== '{' && first !== '[') return null;
  return parseJson(body) === undefined && first === '{' ? 'lines' : 'json';
}

/** Newline-delimited JSON has no registered media type: these are common practice, from memory. */
const LINES = ['application/x-ndjson', 'application/ndjson', 'application/jsonl', 'application/x-jsonlines'];
/** What programs say that do not say what they send. */
const UNTOLD = ['', 'text/plain', 'application/octet-stream'];

/** What a payload may nest, and how many entries a form may have: far more than anybody sends who means it. */
export const DEEPEST_PAYLOAD = 60;
export const MOST_ENTRIES = 2_000;
export const TOO_MANY_ENTRIES = `These are more than ${MOST_ENTRIES} entries in one form.`;
export const TOO_DEEP = `What stands in it is nested more than ${DEEPEST_PAYLOAD} deep.`;

/** Reads JSON as a payload. */
export function readJson(text: string): Result<Payload> {
  if (depthOf(text) > DEEPEST_PAYLOAD) return bad(TOO_DEEP);
  const json = parseJsonExactly(text);
  return json === undefined ? bad('The body is not JSON.') : good({ kind: 'json', json, files: [] });
}

/** Reads a body as what it is written as. XML takes a thread of its own: `readXml`. */
export function readWritten(writing: Exclude<Writing, 'xml'>, body: string): Result<Payload> {
  switch (writing) {
    case 'json': {
      return readJson(body);
    }
    case 'lines':
      return readLines(body);
    case 'form': {
      const entries = readFormBody(body);
      return entries.length > MOST_ENTRIES ? bad(TOO_MANY_ENTRIES) : good({ kind: 'entries', entries, files: [] });
    }
    default:
      return writing satisfies never;
  }
}

/** A value of JSON in each line; empty lines are none. What came is a list of them. */
function readLines(body: string): Result<Payload> {
  const json: unknown[] = [];
  for (const [at, line] of body.split(/\r?\n/).entries()) {
    if (line.trim() === '') continue;
    if (depthOf(line) > DEEPEST_PAYLOAD) return bad(`Line ${at + 1}: ${TOO_DEEP}`);
    const value = parseJsonExactly(line);
    if (value === undefined) return bad(`Line ${at + 1} of the body is not JSON.`);
    json.push(value);
  }
  return good({ kind: 'json', json, files: [] });
}

const xml = new XMLParser({
  ignoreAttributes: false,
  attributeNamePrefix: '@',
  textNodeName: '#text',
  // What looks like a number may be a name made of digits.
  parseTagValue: false,
  parseAttributeValue: false,
  ignoreDeclaration: true,
  ignorePiTags: true,
  removeNSPrefix: true,
  // References by number, too.
  htmlEntities: true,
});

/**
 * XML as a tree: an element is its text, or an object of its elements, of its attributes under @name, and of its text
 * under #text where it has more than that. Elements of one name are a list. Names have no prefixes.
 */
export function readXml(body: string): Result<Payload> {
  // What it declares can grow without end, or lead elsewhere.
  if (/<!(DOCTYPE|ENTITY)/i.test(body)) return bad('XML with a DOCTYPE is not read.');
  try {
    SyntaxValidator.validate(body);
  } catch (error) {
    const { message, line } = error as Error & { line?: number };
    return bad(`The body is not XML${line === undefined ? '' : `, in line ${line}`}: ${message}`);
  }
  try {
    const json = xml.parse(body) as unknown;
    return depthOf(JSON.stringify(json)) > DEEPEST_PAYLOAD ? bad(TOO_DEEP) : good({ kind: 'json', json, files: [] });
  } catch {
    return bad('The body is XML that cannot be read as a tree.');
  }
}
