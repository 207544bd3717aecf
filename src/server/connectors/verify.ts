import type { VerifyResult } from '../../contract/connection.ts';
import type { Profile } from '../../contract/profile/index.ts';
import { classifyAnswer, type Answer, type Fault } from '../../core/delivery/index.ts';
import type { Catalogue } from '../../core/plan/index.ts';
import { needsToken, type Access } from './access.ts';
import { clockOf, errorReading, sendTemplate, type Line } from './call.ts';
import { fetchCatalogue } from './catalogue.ts';
import { createCodeConnector, isFileName, isSigningSecret, mailConnector, type CodeParts } from './code/index.ts';
import { all, one } from './jsonPath.ts';

type Trouble = Omit<Extract<VerifyResult, { ok: false }>, 'ok' | 'at' | 'refused'> & { refused?: boolean };

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
  const failed = (trouble: Trouble): Verified => ({
    result: { ok: false, refused: false, ...trouble, at },
    catalogue: null,
  });
  const typed = checkTyped(access);
  if (typed) return failed(typed);
  const asked = access.profile.speaks === 'http' ? await askService(parts) : await askCode(parts);
  if ('trouble' in asked) return failed(asked.trouble);
  const counts = (catalogue: Catalogue | null) => ({
    lists: catalogue?.lists.length ?? 0,
    groups: catalogue?.lists.reduce((sum, list) => sum + list.groups.length, 0) ?? 0,
    tags: catalogue?.tags.length ?? 0,
    kinds: catalogue?.kinds.length ?? 0,
    fields: catalogue?.fields.length ?? 0,
  });
  if (!withCatalogue) return { result: { ok: true, account: asked.account, ...counts(null), at }, catalogue: null };
  const reply =
    access.profile.speaks === 'http' ? await fetchCatalogue(parts) : await createCodeConnector(parts).fetchCatalogue();
  if (!reply.ok) return failed(catalogueTrouble(reply.fault, access.profile.name));
  return { result: { ok: true, account: asked.account, ...counts(reply.value), at }, catalogue: reply.value };
}

type Asked = { account: string } | { trouble: Trouble };

async function askService(line: Line): Promise<Asked> {
  const { access } = line;
  const { verify, name } = access.profile;
  if (!verify) return { account: new URL(access.baseUrl).host };
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

async function askCode(parts: CodeParts): Promise<Asked> {
  const { access } = parts;
  switch (access.profile.speaks) {
    case 'mail': {
      const verified = await mailConnector(parts).verify();
      return verified.ok ? { account: verified.account } : { trouble: mailTrouble(verified.code, access.baseUrl) };
    }
    case 'signed webhook':
      // There is nothing that every receiver would answer without being sent something.
      return { account: new URL(access.baseUrl).host };
    case 'file':
      return { account: access.baseUrl };
    case 'http':
      return askService(parts);
    default:
      return access.profile.speaks satisfies never;
  }
}

/** What is wrong with what was typed, before anything is asked. */
function checkTyped({ profile, baseUrl, credentials }: Access): Trouble | null {
  if (profile.speaks === 'file')
    return isFileName(baseUrl)
      ? null
      : {
          about: 'baseUrl',
          problem: 'This is not a file name that can be used.',
          nextStep: 'Use letters, digits, blanks and dashes, and end it with .csv.',
        };
  const wrongUrl = profile.speaks === 'mail' ? checkMailServer(baseUrl) : checkBaseUrl(baseUrl);
  if (wrongUrl) return wrongUrl;
  if (profile.speaks === 'mail') return null;
  const missing = profile.credentials.find(({ name }) => (credentials[name] ?? '') === '');
  if (missing) return { about: missing.name, problem: `There is no ${missing.label} yet.`, nextStep: missing.help };
  if (profile.speaks === 'signed webhook' && !isSigningSecret(credentials.secret ?? ''))
    return {
      about: 'secret',
      problem: 'This is not a signing secret.',
      nextStep: 'It is whsec_ followed by at least 16 bytes in base64. Make one with: openssl rand -base64 24',
    };
  return null;
}

function checkMailServer(text: string): Trouble | null {
  return /^smtps?:\/\/[^\s/@]+$/i.test(text) && URL.canParse(text)
    ? null
    : {
        about: 'baseUrl',
        problem: 'This is not the address of a mail server.',
        nextStep: `Write it as smtps://${text.replace(/^[a-z]+:\/*/i, '') || 'mail.example.org'}, or smtp:// when it has no encryption of its own.`,
      };
}

function mailTrouble(code: string, baseUrl: string): Trouble {
  if (code === 'EAUTH')
    return {
      about: 'password',
      refused: true,
      problem: 'The mail server does not take this user name and password.',
      nextStep: 'Check both. Many providers want a password made for one application instead of that of the mailbox.',
    };
  return {
    about: 'baseUrl',
    problem: `The mail server ${new URL(baseUrl).host} could not be used (${code}).`,
    nextStep: 'Check its name and port: 465 with smtps://, 587 with smtp://.',
  };
}

const lackingTrouble = ({ name, credentials }: Profile, account: string, missing: string[]): Trouble => ({
  about: credentials[0]?.name ?? 'service',
  problem: `The ${credentials[0]?.label ?? 'access'} is good and belongs to ${account}, but it lacks ${missing.length === 1 ? 'a permission' : 'permissions'}: ${missing.join(', ')}.`,
  nextStep: `In ${name}, give it ${missing.join(' and ')}, or make a new one that has it; then verify again.`,
});

/** What is wrong with a base URL as typed; null when nothing is. */
export function checkBaseUrl(text: string): Trouble | null {
  if (!/^[a-z][a-z0-9+.-]*:\/\//i.test(text)) {
    return {
      about: 'baseUrl',
      problem: 'The base URL has no scheme: it does not start with https://.',
      nextStep: `Write it as https://${text.replace(/^\/+/, '')}`,
    };
  }
  if (!URL.canParse(text))
    return {
      about: 'baseUrl',
      problem: 'The base URL cannot be read.',
      nextStep: 'Copy it again from the address bar or the documentation there.',
    };
  const url = new URL(text);
  if (url.protocol !== 'https:' && url.protocol !== 'http:') {
    return {
      about: 'baseUrl',
      problem: `The base URL starts with ${url.protocol}//, which is no web address.`,
      nextStep: 'It has to start with https://.',
    };
  }
  if (url.username !== '' || url.search !== '' || url.hash !== '') {
    return {
      about: 'baseUrl',
      problem: 'The base URL has more in it than an address (a user name, a ? or a #).',
      nextStep: `Use only ${url.origin}${url.pathname}`,
    };
  }
  return null;
}

/** From this difference on, the two clocks are worth a word. */
const SKEW_MS = 60_000;

function readTrouble(answer: Answer, access: Access, now: number): Trouble | null {
  const { profile, baseUrl } = access;
  if (answer.kind === 'unanswered') return silenceTrouble(answer, baseUrl);
  const fault = classifyAnswer(answer, errorReading(profile), now);
  if (fault === null) return null;
  const { status, headers } = answer;
  const { name, credentials } = profile;
  const about = credentials[0]?.name ?? (profile.authentication.kind === 'secret address' ? 'baseUrl' : 'service');
  const paste = credentials.map(({ label }) => label).join(' and ');
  if (status >= 300 && status < 400) {
    return {
      about: 'baseUrl',
      problem: `The address sends us on to another one${headers.location ? `: ${originOf(headers.location, baseUrl)}` : ''}. Credentials are not sent after a redirect.`,
      nextStep: 'Use the address it leads to as the base URL.',
    };
  }
  if (fault.cause === 'credentials refused') {
    if (needsToken(profile))
      return {
        about: 'service',
        refused: true,
        problem: `${name} does not take the access that was granted any more.`,
        nextStep: 'Grant access again.',
      };
    if (profile.authentication.kind === 'secret address')
      return {
        about: 'baseUrl',
        refused: true,
        problem: `${name} does not know this address.`,
        nextStep: `Copy it again, whole, from ${name}; if it was replaced there, use the new one.`,
      };
    const clock = clockOf(answer);
    const off = clock !== null && profile.authentication.kind === 'signature' ? Math.abs(clock - now) : 0;
    return {
      about,
      refused: true,
      problem: `${name} does not know this ${paste}${fault.said ? ` ("${fault.said}")` : ''}.`,
      nextStep:
        off > SKEW_MS
          ? `The clocks differ by ${Math.round(off / 60_000)} minutes: set the clock of the machine that Iwashi runs on, then verify again.`
          : `Copy the ${paste} again, whole and without blanks; if it was shown once and is lost, make a new one there.`,
    };
  }
  if (status === 403) {
    return {
      about,
      problem: `${name} knows the ${paste || 'address'}, but does not let it in${fault.said ? ` ("${fault.said}")` : ''}.`,
      nextStep: `Check there that it is switched on${profile.verify?.needs ? ` and has the permissions ${profile.verify.needs.join(', ')}` : ''}.`,
    };
  }
  if (status === 404) {
    return {
      about: 'baseUrl',
      problem: `There is something at this address, but it has no ${profile.verify?.request.path ?? 'such page'}: it is not ${name}, or the base URL has a part too many or too few.`,
      nextStep:
        'Check the base URL against the one that the service shows. Some services also answer so when the key is of another account.',
    };
  }
  if (status === 429)
    return {
      about: 'service',
      problem: `${name} asks us to go slower.`,
      nextStep: 'Wait a minute, then verify again.',
    };
  if (status >= 500)
    return {
      about: 'service',
      problem: `${name} answers that it is out of order (${status}).`,
      nextStep: 'Try again in a few minutes. Nothing is wrong with what you entered as far as we can tell.',
    };
  if (status >= 400)
    return {
      about: 'service',
      problem: `${name} refuses the question (${status})${fault.said ? `: ${fault.said}` : ''}.`,
      nextStep: `Check the base URL${paste ? ` and the ${paste}` : ''}.`,
    };
  return notThatService(name);
}

function silenceTrouble({ fault, code }: Answer & { kind: 'unanswered' }, baseUrl: string): Trouble {
  const { host, protocol } = new URL(baseUrl);
  if (code === 'ENOTFOUND' || code === 'EAI_AGAIN') {
    return {
      about: 'baseUrl',
      problem: `No server is known by the name ${host}.`,
      nextStep: 'Check the name for a typing mistake.',
    };
  }
  if (fault === 'certificate') {
    return /SSL|EPROTO/.test(code)
      ? {
          about: 'baseUrl',
          problem: `${host} does not speak ${protocol}//.`,
          nextStep: 'Check the port; a service for trying out may be at http:// instead.',
        }
      : {
          about: 'baseUrl',
          problem: `The certificate of ${host} cannot be trusted (${code}).`,
          nextStep: 'Check the name in the base URL. If it is right, its owner has to renew the certificate.',
        };
  }
  if (fault === 'forbidden address') {
    return {
      about: 'baseUrl',
      problem: `${host} is a private address, which this installation does not call.`,
      nextStep: 'Use the public address of the service. Whoever runs Iwashi can allow private addresses.',
    };
  }
  if (fault === 'time-out')
    return {
      about: 'service',
      problem: `${host} did not answer within ten seconds.`,
      nextStep: 'Try again. If it lasts, check the base URL, and whether the service has an outage.',
    };
  if (fault === 'dropped')
    return {
      about: 'service',
      problem: `${host} broke off the connection.`,
      nextStep: 'Try again; check the port if the base URL has one.',
    };
  return {
    about: 'baseUrl',
    problem: `Nothing answers at ${host}.`,
    nextStep: 'Check the base URL, its port above all, and whether the service is running.',
  };
}

const notThatService = (name: string): Trouble => ({
  about: 'baseUrl',
  problem: `Something answers at this address, but not as ${name} does.`,
  nextStep: `Check that the base URL is that of ${name}, and not, for example, of its web site.`,
});

const catalogueTrouble = (fault: Fault, name: string): Trouble => ({
  about: 'service',
  problem: `The key is good, but ${name} did not hand over its lists and fields${fault.said ? `: ${fault.said}` : ''}.`,
  nextStep: 'Verify again. If it lasts, check the permissions of the key.',
});

function originOf(location: string, base: string): string {
  return URL.canParse(location, base) ? new URL(location, base).origin : location;
}
