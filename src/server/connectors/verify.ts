import type { VerifyResult } from '../../contract/connection.ts';
import type { Answer, Fault } from '../../core/delivery/index.ts';
import type { Catalogue } from '../../core/plan/index.ts';
import { all, createConnector, one, sendTemplate, type Access } from './engine.ts';
import type { Send } from './http.ts';

type Trouble = Omit<Extract<VerifyResult, { ok: false }>, 'ok' | 'at'>;

/** Asks a service who we are there and what it offers, or says exactly what is wrong and what to do. */
export async function verifyConnection(
  send: Send,
  access: Access,
  now: () => number,
): Promise<{ result: VerifyResult; catalogue: Catalogue | null }> {
  const at = new Date(now()).toISOString();
  const failed = (trouble: Trouble) => ({ result: { ok: false as const, ...trouble, at }, catalogue: null });

  const wrongUrl = checkBaseUrl(access.baseUrl);
  if (wrongUrl) return failed(wrongUrl);
  if (access.key === '')
    return failed({ about: 'key', problem: 'There is no key yet.', nextStep: access.profile.keyHelp });

  const { verify, name } = access.profile;
  const answer = await sendTemplate(send, access, verify.request, {});
  const trouble = readTrouble(answer, access);
  if (trouble) return failed(trouble);
  const body = answer.kind === 'answered' ? answer.body : null;
  const account = one(body, verify.account);
  if (typeof account !== 'string') return failed(notThatService(name));
  const granted = all(body, verify.permissions);
  const missing = verify.needs.filter((permission) => !granted.includes(permission));
  if (missing.length > 0) {
    return failed({
      about: 'key',
      problem: `The key is good and belongs to ${account}, but it lacks ${missing.length === 1 ? 'a permission' : 'permissions'}: ${missing.join(', ')}.`,
      nextStep: `In ${name}, give this key ${missing.join(' and ')}, or make a new key that has it; then verify again.`,
    });
  }
  const catalogue = await createConnector(send, access, now).fetchCatalogue();
  if (!catalogue.ok) return failed(catalogueTrouble(catalogue.fault, name));
  const { lists, tags, fields } = catalogue.value;
  const groups = lists.reduce((sum, list) => sum + list.groups.length, 0);
  return {
    result: { ok: true, account, lists: lists.length, groups, tags: tags.length, fields: fields.length, at },
    catalogue: catalogue.value,
  };
}

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

function readTrouble(answer: Answer, { profile, baseUrl }: Access): Trouble | null {
  if (answer.kind === 'unanswered') return silenceTrouble(answer, baseUrl);
  const { status, headers } = answer;
  if (status >= 300 && status < 400) {
    return {
      about: 'baseUrl',
      problem: `The address sends us on to another one${headers.location ? `: ${originOf(headers.location, baseUrl)}` : ''}. A key is not sent after a redirect.`,
      nextStep: 'Use the address it leads to as the base URL.',
    };
  }
  if (status === 401) {
    return {
      about: 'key',
      problem: `${profile.name} does not know this key.`,
      nextStep: 'Copy the key again, whole and without blanks; if it was shown once and is lost, make a new one there.',
    };
  }
  if (status === 403) {
    return {
      about: 'key',
      problem: `${profile.name} knows the key, but does not let it in.`,
      nextStep: `Check there that the key is switched on and has the permissions ${profile.verify.needs.join(', ')}.`,
    };
  }
  if (status === 404) {
    return {
      about: 'baseUrl',
      problem: `There is something at this address, but it has no ${profile.verify.request.path}: it is not ${profile.name}, or the base URL has a part too many or too few.`,
      nextStep:
        'Check the base URL against the one that the service shows. Some services also answer so when the key is of another account.',
    };
  }
  if (status === 429)
    return {
      about: 'service',
      problem: `${profile.name} asks us to go slower.`,
      nextStep: 'Wait a minute, then verify again.',
    };
  if (status >= 500)
    return {
      about: 'service',
      problem: `${profile.name} answers that it is out of order (${status}).`,
      nextStep: 'Try again in a few minutes. Nothing is wrong with what you entered as far as we can tell.',
    };
  if (status >= 400)
    return {
      about: 'service',
      problem: `${profile.name} refuses the question (${status}).`,
      nextStep: 'Check the base URL and the key.',
    };
  return answer.readable ? null : notThatService(profile.name);
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
