import type { VerifyResult } from '../../../contract/connection.ts';
import type { Catalogue } from '../../../core/plan/index.ts';
import { sendTemplate, type Line } from '../call.ts';
import { fetchCatalogue } from '../catalogue.ts';
import { createCodeConnector, mailConnector, type CodeParts } from '../code/index.ts';
import { all, one } from '../../../core/json/index.ts';
import {
  catalogueTrouble,
  lackingTrouble,
  mailTrouble,
  notThatService,
  readTrouble,
  silenceTrouble,
} from './trouble.ts';
import { checkTyped, type Trouble } from './typed.ts';

export interface Verified {
  result: VerifyResult;
  /** What it offers; null when it was not asked for, or could not be had. */
  catalogue: Catalogue | null;
}

/**
 * Asks a service who we are there and what it offers, or says exactly what is wrong and what to do.
 * @param withCatalogue false asks only who we are, which is cheap enough to be done every few minutes
 */
export async function verifyConnection(parts: CodeParts, withCatalogue = true): Promise<Verified> {
  const { access, now } = parts;
  const at = new Date(now()).toISOString();
  const isSecret = access.profile.authentication.kind === 'secret address';
  const failed = ({ instead, ...trouble }: Trouble): Verified => ({
    // An address that is a secret is not shown.
    result: { ok: false, refused: false, ...trouble, ...(isSecret || instead === undefined ? {} : { instead }), at },
    catalogue: null,
  });
  const typed = checkTyped(access);
  if (typed) return failed(typed);
  const asked = access.profile.speaks === 'http' ? await askService(parts) : await askCode(parts);
  if ('trouble' in asked) return failed(asked.trouble);
  const untried = asked.untried === undefined ? {} : { untried: asked.untried };
  if (!withCatalogue)
    return { result: { ok: true, account: asked.account, ...countsOf(null), ...untried, at }, catalogue: null };
  const reply =
    access.profile.speaks === 'http' ? await fetchCatalogue(parts) : await createCodeConnector(parts).fetchCatalogue();
  if (!reply.ok) return failed(catalogueTrouble(reply.fault, access.profile.name));
  return {
    result: { ok: true, account: asked.account, ...countsOf(reply.value), ...untried, at },
    catalogue: reply.value,
  };
}

/** How much of each there is. */
export const countsOf = (catalogue: Catalogue | null) => ({
  lists: catalogue?.lists.length ?? 0,
  groups: catalogue?.lists.reduce((sum, list) => sum + list.groups.length, 0) ?? 0,
  tags: catalogue?.tags.length ?? 0,
  kinds: catalogue?.kinds.length ?? 0,
  fields: catalogue?.fields.length ?? 0,
});

/** @see VerifyResult for `untried` */
type Asked = { account: string; untried?: string } | { trouble: Trouble };

const NOTHING_TO_ASK =
  'This kind of service was asked nothing: its description has no request that says who we are. Whether the address and the keys are right shows with the first delivery.';
const ONLY_REACHED =
  'Something answers at this address. Whether it takes what we send is not known before the first delivery.';

async function askService(line: Line): Promise<Asked> {
  const { access } = line;
  const { verify, name } = access.profile;
  if (!verify) return { account: new URL(access.baseUrl).host, untried: NOTHING_TO_ASK };
  const answer = await sendTemplate(line, verify.request, {});
  const trouble = readTrouble(answer, access, line.now());
  if (trouble) return { trouble };
  const body = answer.kind === 'answered' ? answer.body : null;
  const account = verify.account === undefined ? new URL(access.baseUrl).host : one(body, verify.account);
  if (typeof account !== 'string') return { trouble: notThatService(name) };
  const granted = verify.permissions === undefined ? null : all(body, verify.permissions);
  const missing = granted === null ? [] : (verify.needs ?? []).filter((permission) => !granted.includes(permission));
  return missing.length === 0 ? { account } : { trouble: lackingTrouble(access.profile, account, missing) };
}

/** Whether anything answers there, whatever it answers: asked in a way that sends nothing (RFC 9110, 9.3.7). */
async function reach({ access, send }: CodeParts): Promise<Asked> {
  const { answer } = await send({
    method: 'OPTIONS',
    url: access.baseUrl,
    headers: {},
    isPage: true,
    secret: { headers: [], query: [], path: true },
    pool: 'verifying',
    atOnce: 2,
  });
  return answer.kind === 'unanswered'
    ? { trouble: silenceTrouble(answer, access.baseUrl) }
    : { account: new URL(access.baseUrl).host, untried: ONLY_REACHED };
}

async function askCode(parts: CodeParts): Promise<Asked> {
  const { access } = parts;
  switch (access.profile.speaks) {
    case 'mail': {
      const verified = await mailConnector(parts).verify();
      return verified.ok ? { account: verified.account } : { trouble: mailTrouble(verified.code, access.baseUrl) };
    }
    case 'signed webhook':
      // There is nothing that every receiver would answer without being sent something.
      return reach(parts);
    case 'file':
      return { account: access.baseUrl };
    case 'http':
      return askService(parts);
    default:
      return access.profile.speaks satisfies never;
  }
}
