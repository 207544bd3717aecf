import { Buffer } from 'node:buffer';
import { filesOf, type Download } from '../../core/forms/index.ts';
import type { Context } from '../context.ts';
import { readSignedText, signText } from '../security/stamps.ts';
import { DAY_MS } from '../store/figures.ts';
import type { SourceRecord } from '../store/sources.ts';

/** The forms that show a file of ours or hand it out, live or in their drafts. */
export const formsWith = (sources: SourceRecord[], id: string): { id: string; name: string }[] =>
  sources
    .filter(({ draft, live }) => [draft, live].some((one) => one?.kind === 'form' && filesOf(one).includes(id)))
    .map((source) => ({ id: source.id, name: source.name }));

const WHAT = 'download';

/** What a link of a visitor's own hands out, to whom, and until when. */
export interface HandedOut {
  /** '' where it is counted for nobody. */
  submissionId: string;
  /** Milliseconds since 1970. */
  until: number;
  file: string;
  url: string;
}

/** The address by which a visitor gets what is handed out to who sent a form: signed, and good for some days. */
export function downloadAddress({ config, now }: Context, submissionId: string, { file, url, days }: Download): string {
  const text = JSON.stringify({ submissionId, until: now() + days * DAY_MS, file, url } satisfies HandedOut);
  const token = signText(config.secretKey, WHAT, Buffer.from(text).toString('base64url'));
  return `${config.publicUrl}/place/download/${token}`;
}

/** Reads the token of such an address; null where it is none of ours. */
export function readDownload({ config }: Context, token: string): HandedOut | null {
  const text = readSignedText(config.secretKey, WHAT, token);
  return text === null ? null : (JSON.parse(Buffer.from(text, 'base64url').toString('utf8')) as HandedOut);
}
