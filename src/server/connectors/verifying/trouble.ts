import type { Profile } from '../../../contract/profile/index.ts';
import { classifyAnswer, type Answer, type Fault } from '../../../core/delivery/index.ts';
import { needsToken, type Access } from '../access.ts';
import { clockOf, errorReading } from '../call.ts';
import { slipsIn, type Trouble } from './typed.ts';

export function mailTrouble(code: string, baseUrl: string): Trouble {
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

export const lackingTrouble = ({ name, credentials }: Profile, account: string, missing: string[]): Trouble => ({
  about: credentials[0]?.name ?? 'service',
  problem: `The ${credentials[0]?.label ?? 'access'} is good and belongs to ${account}, but it lacks ${missing.length === 1 ? 'a permission' : 'permissions'}: ${missing.join(', ')}.`,
  lacks: missing,
  nextStep: `In ${name}, give it ${missing.join(' and ')}, or make a new one that has it; then verify again.`,
});

/** From this difference on, the two clocks are worth a word. */
const SKEW_MS = 60_000;

/** What an answer says is wrong; null when nothing is. */
export function readTrouble(answer: Answer, access: Access, now: number): Trouble | null {
  const { profile, baseUrl } = access;
  if (answer.kind === 'unanswered')
    return answer.fault === 'too large' ? notThatService(profile.name) : silenceTrouble(answer, baseUrl);
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
      nextStep: 'Use the address it leads to instead.',
      ...instead(redirectBase(answer, access)),
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
          : slipsIn(access) ||
            `Copy the ${paste} again, whole and without blanks; if it was shown once and is lost, make a new one there.`,
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
      problem: `There is something at this address, but it has no ${profile.verify?.request.path ?? 'such page'}: it is not ${name}, or the address has a part too many or too few.`,
      nextStep:
        'Check it against the one that the service shows. Some services also answer so when the key is of another account.',
      ...instead(baseWithoutPath(baseUrl)),
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
      nextStep: `Check the address${paste ? ` and the ${paste}` : ''}.`,
    };
  return notThatService(name);
}

export function silenceTrouble({ fault, code }: Answer & { kind: 'unanswered' }, baseUrl: string): Trouble {
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
          ...instead(protocol === 'https:' ? baseUrl.replace(/^https:/i, 'http:') : null),
        }
      : {
          about: 'baseUrl',
          problem: `The certificate of ${host} cannot be trusted (${code}).`,
          nextStep: 'Check the name in the address. If it is right, its owner has to renew the certificate.',
        };
  }
  if (fault === 'incomplete request')
    return {
      about: 'service',
      problem: `The connector profile asks for something that has no value here: ${code}.`,
      nextStep: 'Correct the request by which the profile verifies.',
    };
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
      nextStep: 'Try again. If it lasts, check the address, and whether the service has an outage.',
    };
  if (fault === 'dropped')
    return {
      about: 'service',
      problem: `${host} broke off the connection.`,
      nextStep: 'Try again; check the port if the address has one.',
    };
  return {
    about: 'baseUrl',
    problem: `Nothing answers at ${host}.`,
    nextStep: 'Check the address, its port above all, and whether the service is running.',
  };
}

export const notThatService = (name: string): Trouble => ({
  about: 'baseUrl',
  problem: `Something answers at this address, but not as ${name} does.`,
  nextStep: `Check that it is the address of ${name}, and not, for example, of its web site.`,
});

export const catalogueTrouble = (fault: Fault, name: string): Trouble => ({
  about: 'service',
  problem: `The key is good, but ${name} did not hand over its lists and fields${fault.said ? `: ${fault.said}` : ''}.`,
  nextStep: 'Verify again. If it lasts, check the permissions of the key.',
});

function originOf(location: string, base: string): string {
  return URL.canParse(location, base) ? new URL(location, base).origin : location;
}

const instead = (baseUrl: string | null): Pick<Trouble, 'instead'> => (baseUrl === null ? {} : { instead: baseUrl });

/** Where the question was sent on to, without the question's own path; null when it leads elsewhere. */
function redirectBase({ headers }: Answer & { kind: 'answered' }, { profile, baseUrl }: Access): string | null {
  const { location = '' } = headers;
  const asked = profile.verify?.request.path ?? '';
  if (asked === '' || !URL.canParse(location, baseUrl)) return null;
  const { origin, pathname } = new URL(location, baseUrl);
  return pathname.endsWith(asked) ? `${origin}${pathname.slice(0, -asked.length)}` : null;
}

function baseWithoutPath(baseUrl: string): string | null {
  const { origin, pathname } = new URL(baseUrl);
  return pathname === '/' ? null : origin;
}
