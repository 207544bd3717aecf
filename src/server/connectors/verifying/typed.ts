import type { VerifyResult } from '../../../contract/connection.ts';
import { isPublicAddress } from '../../security/addresses.ts';
import type { Access } from '../access.ts';
import { isFileName, isSigningSecret } from '../code/index.ts';

/** What is wrong with a connection, beside which part of what was entered, and what to do. */
export type Trouble = Omit<Extract<VerifyResult, { ok: false }>, 'ok' | 'at' | 'refused'> & { refused?: boolean };

/** The same in one text, for where it stands beside what was entered. */
export const sayTrouble = ({ problem, nextStep, instead }: Pick<Trouble, 'problem' | 'nextStep' | 'instead'>): string =>
  `${problem} ${nextStep}${instead === undefined ? '' : ` Perhaps ${instead} is meant.`}`;

/** What is wrong with what was typed, before anything is asked. */
export function checkTyped({ profile, baseUrl, credentials }: Access): Trouble | null {
  if (profile.speaks === 'file')
    return isFileName(baseUrl)
      ? null
      : {
          about: 'baseUrl',
          problem: 'This is not a file name that can be used.',
          nextStep: 'Use letters, digits, blanks and dashes, and end it with .csv.',
        };
  const wrongUrl =
    profile.speaks === 'mail' ? checkMailServer(baseUrl) : checkBaseUrl(baseUrl, isWholeAddress(profile));
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

/** Whether what is typed is the very address that is sent to, as whoever runs it gave it, rather than what requests begin with. */
const isWholeAddress = ({ speaks, authentication }: Access['profile']): boolean =>
  speaks === 'signed webhook' || authentication.kind === 'secret address';

function checkMailServer(text: string): Trouble | null {
  return /^smtps?:\/\/[^\s/@]+$/i.test(text) && URL.canParse(text)
    ? null
    : {
        about: 'baseUrl',
        problem: 'This is not the address of a mail server.',
        nextStep: `Write it as smtps://${text.replace(/^[a-z]+:\/*/i, '') || 'mail.example.org'}, or smtp:// when it has no encryption of its own.`,
      };
}

/**
 * What is wrong with a base URL as typed; null when nothing is.
 * @param takesQuery whether a query is part of it, as it may be where it is the whole address
 */
export function checkBaseUrl(text: string, takesQuery = false): Trouble | null {
  if (!/^[a-z][a-z0-9+.-]*:\/\//i.test(text)) {
    const instead = withScheme(text.replace(/^:?\/+/, ''));
    return {
      about: 'baseUrl',
      problem: 'The address has no scheme: it does not start with https://.',
      nextStep: `Put ${instead.slice(0, instead.indexOf('//') + 2)} before it.`,
      instead,
    };
  }
  if (!URL.canParse(text))
    return {
      about: 'baseUrl',
      problem: 'The address cannot be read.',
      nextStep: 'Copy it again from the address bar or the documentation there.',
    };
  const url = new URL(text);
  if (url.protocol !== 'https:' && url.protocol !== 'http:') {
    return {
      about: 'baseUrl',
      problem: `The address starts with ${url.protocol}//, which is no web address.`,
      nextStep: 'It has to start with https://.',
    };
  }
  if (url.username !== '' || (url.search !== '' && !takesQuery) || url.hash !== '') {
    return {
      about: 'baseUrl',
      problem: 'There is more in it than an address: a user name, a ? or a #.',
      nextStep: 'Use only the address itself.',
      instead: `${url.origin}${url.pathname}`,
    };
  }
  return null;
}

/** Services on a machine or network of one's own seldom have a certificate. */
function withScheme(address: string): string {
  const url = URL.canParse(`https://${address}`) ? new URL(`https://${address}`) : null;
  const host = url?.hostname.replace(/^\[|\]$/g, '') ?? '';
  const isOwn = host === 'localhost' || (/^[\d.]+$|:/.test(host) && !isPublicAddress(host));
  return `${isOwn ? 'http' : 'https'}://${address}`;
}

/** What probably went wrong in copying credentials that are refused, in sentences; '' when nothing shows. */
export function slipsIn({ profile, credentials }: Access): string {
  return profile.credentials
    .flatMap(({ name, label }) => {
      const slip = slipIn(credentials[name] ?? '');
      return slip === null ? [] : [`The ${label} ${slip}.`];
    })
    .join(' ');
}

function slipIn(value: string): string | null {
  if (/^(["'“”‘’`]).*\1$|^[“‘].*[”’]$/.test(value)) return 'has quotation marks around it: paste it without them';
  if (/^(bearer|basic|token|apikey)\s/i.test(value))
    return 'begins with the word that goes before it in a header: paste only what follows';
  if (/^[\w-]+\s*[:=]\s*\S/.test(value) && /\s/.test(value)) return 'has its name before it: paste only the value';
  if (/\s/.test(value)) return 'has a blank or a line break in it';
  if (/[•…*]{3}|\.{3}$/.test(value)) return 'is shortened, as it is shown in a list: copy the whole of it';
  return null;
}
