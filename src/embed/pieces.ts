import { FILE_NAME_HEADER } from '../contract/ownFiles.ts';
import { keptName } from '../core/forms/inputs.ts';

/** What is larger comes in pieces; the rest goes along with the form. Bytes. */
const PIECE = 1_000_000;
const PATIENCE_MS = 60_000;

/** Something that goes wrong for good: then the form brings the file along itself. */
export class NotInPieces extends Error {}

/** A file that is on its way, or there. */
export interface Ahead {
  at?: string;
  kept?: string;
}

/**
 * Sends the large files of a form ahead of it, piece by piece, and has the form say which they are. What is there already is not
 * sent again.
 * @param action where the form is sent
 * @param ahead what is known of files from an earlier try; it is kept up
 * @param say tells how much is there, in percent
 * @throws NotInPieces where they are not taken in this way; anything else where it can be tried again
 */
export async function sendAhead(
  action: string,
  data: FormData,
  ahead: Map<File, Ahead>,
  say: (percent: number) => void,
): Promise<void> {
  const large = [...data].filter((entry): entry is [string, File] => entry[1] instanceof File && entry[1].size > PIECE);
  const total = large.reduce((sum, [, { size }]) => sum + size, 0);
  let before = 0;
  for (const [name, file] of large) {
    const own = ahead.get(file) ?? {};
    ahead.set(file, own);
    own.kept ??= await sendFile(action, file, own, (there) => say(Math.floor((100 * (before + there)) / total)));
    before += file.size;
    data.delete(name);
    data.set(keptName(name), own.kept);
  }
}

async function sendFile(action: string, file: File, own: Ahead, say: (there: number) => void): Promise<string> {
  let there = 0;
  if (own.at === undefined) {
    const begun = await ask(`${action}/files`, {
      method: 'POST',
      headers: {
        'upload-length': String(file.size),
        'upload-complete': '?0',
        [FILE_NAME_HEADER]: encodeURIComponent(file.name),
      },
    });
    own.at = begun.headers.get('location') ?? '';
  } else there = offsetOf(await ask(own.at, { method: 'HEAD' }));
  for (;;) {
    say(there);
    const last = there + PIECE >= file.size;
    const answer = await ask(own.at, {
      method: 'PATCH',
      body: file.slice(there, there + PIECE),
      headers: {
        'content-type': 'application/partial-upload',
        'upload-offset': String(there),
        'upload-complete': last ? '?1' : '?0',
      },
    });
    there = offsetOf(answer);
    const { kept } = (await answer.json()) as { kept?: string };
    if (kept !== undefined) return kept;
  }
}

const offsetOf = ({ headers }: Response): number => Number(headers.get('upload-offset'));

async function ask(url: string, how: RequestInit): Promise<Response> {
  const response = await fetch(url, { ...how, credentials: 'omit', signal: AbortSignal.timeout(PATIENCE_MS) });
  if (response.ok || response.status === 409) return response;
  if (response.status < 500 && response.status !== 429) throw new NotInPieces();
  throw new Error('later');
}
