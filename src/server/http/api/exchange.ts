import type { ClassConstructor } from 'class-transformer';
import type { Context as HonoContext } from 'hono';
import { isObject, type DocumentIssue } from '../../../core/documents/index.ts';
import type { Result } from '../../../core/result.ts';
import { check } from '../../../contract/checks.ts';
import { Problem } from '../problems.ts';

/** What can be handed on as a file. */
type Exchanged = 'source' | 'route';

/** A file to keep or to hand on: plain JSON, the same text for the same document. */
export function exported(name: string, what: Exchanged, content: object): Response {
  const file =
    name
      .toLowerCase()
      .replace(/[^a-z0-9]+/g, '-')
      .replace(/^-|-$/g, '') || what;
  return new Response(`${JSON.stringify(sorted({ what: `iwashi ${what}`, ...content }), null, 2)}\n`, {
    headers: {
      'content-type': 'application/json',
      'content-disposition': `attachment; filename="${file}.${what}.json"`,
    },
  });
}

/** Members in the order of their names, so that two texts can be compared line by line. */
function sorted(value: unknown): unknown {
  if (Array.isArray(value)) return value.map(sorted);
  if (!isObject(value)) return value;
  return Object.fromEntries(
    Object.keys(value)
      .sort()
      .map((name) => [name, sorted(value[name])]),
  );
}

/**
 * Reads a file that was exported, of any format that was ever written, and checks it part by part.
 * @param classOf the contract class that its document is checked against
 * @throws Problem saying why it cannot be taken, with the place
 */
export async function readExported<Document extends object>(
  c: HonoContext,
  what: Exchanged,
  read: (json: unknown) => Result<Document, DocumentIssue>,
  classOf: (document: Document) => ClassConstructor<Document>,
): Promise<{ name: string; document: Document; file: Record<string, unknown> }> {
  const file: unknown = await c.req.json().catch(() => null);
  const is = isObject(file) ? file.what : undefined;
  if (!isObject(file) || is !== `iwashi ${what}`)
    throw new Problem(
      422,
      'invalid',
      typeof is === 'string' && is.startsWith('iwashi ')
        ? `This file holds an ${is}; here a ${what} is imported.`
        : `This file is no ${what} that Iwashi exported.`,
    );
  const document = read(file.document);
  if (!document.ok) {
    const { pointer, detail } = document.issue;
    throw new Problem(422, 'invalid', detail, [{ pointer: `/document${pointer}`, detail }]);
  }
  const checked = check(classOf(document.value), document.value);
  if (!checked.ok)
    throw new Problem(422, 'invalid', 'The file cannot be taken: something in it is not right.', checked.issues);
  const name = typeof file.name === 'string' ? file.name.trim().slice(0, 80) : '';
  return { name: name || `Imported ${what}`, document: plain(checked.value), file };
}

/** A checked document without the class it was checked by, as it is stored. */
export const plain = <T>(value: T): T => JSON.parse(JSON.stringify(value)) as T;
