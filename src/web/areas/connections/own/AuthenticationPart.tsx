import type { Authentication, Credential, CredentialName, Profile } from '../../../../contract/profile/index.ts';
import { NEEDED_CREDENTIALS } from '../../../../contract/profile/credentials.ts';
import { Field } from '../../../parts/Field.tsx';

type Kind = Authentication['kind'];

const KINDS: [Kind, string][] = [
  ['none', 'nothing at all'],
  ['key in header', 'a key in a header'],
  ['key in query', 'a key in the address'],
  ['bearer', 'a key as bearer token'],
  ['user and password', 'user name and password'],
  ['secret address', 'the address itself is the secret'],
  ['signature', 'a key, and a secret that signs'],
  ['OAuth, granted by a person', 'access granted in its own window (OAuth)'],
  ['OAuth, by client', 'client id and client secret (OAuth)'],
];

/** How each way begins; what the service names otherwise is changed beside it. */
const BEGINNINGS: Record<Kind, Authentication> = {
  none: { kind: 'none' },
  'key in header': { kind: 'key in header', header: 'X-Api-Key' },
  'key in query': { kind: 'key in query', parameter: 'api_key' },
  bearer: { kind: 'bearer' },
  'user and password': { kind: 'user and password' },
  'secret address': { kind: 'secret address' },
  signature: {
    kind: 'signature',
    keyHeader: 'X-Key',
    timeHeader: 'X-Time',
    time: 'seconds',
    signatureHeader: 'X-Signature',
    hash: 'sha256',
    encoding: 'hex',
    canonical: '{method}\n{target}\n{time}\n{body}',
  },
  'OAuth, granted by a person': {
    kind: 'OAuth, granted by a person',
    authorize: '/oauth/authorize',
    token: '/oauth/token',
    scopes: [],
  },
  'OAuth, by client': { kind: 'OAuth, by client', token: '/oauth/token', scopes: [] },
};

const LABELS: Record<CredentialName, string> = {
  key: 'API key',
  secret: 'Secret',
  user: 'User name',
  password: 'Password',
  clientId: 'Client id',
  clientSecret: 'Client secret',
};
const HELP = 'Where the service shows it, usually under account or settings.';

interface AuthenticationPartProps {
  profile: Profile;
  onChange: (profile: Profile) => void;
}

/** How requests say on whose behalf they come, and what has to be pasted for it. */
export function AuthenticationPart({ profile, onChange }: AuthenticationPartProps) {
  const { authentication, credentials } = profile;
  const set = (part: object) => onChange({ ...profile, authentication: { ...authentication, ...part } });
  const choose = (kind: Kind) =>
    onChange({
      ...profile,
      authentication: BEGINNINGS[kind],
      credentials: NEEDED_CREDENTIALS[kind].map(
        (name): Credential => credentials.find((one) => one.name === name) ?? { name, label: LABELS[name], help: HELP },
      ),
    });
  const text = (label: string, name: string, value: string, help = '') => (
    <Field key={name} label={label} help={help}>
      <input
        className="input w-full font-mono"
        value={value}
        spellCheck={false}
        onChange={(event) => set({ [name]: event.target.value })}
      />
    </Field>
  );
  return (
    <section className="grid gap-3 sm:grid-cols-2 max-w-3xl" aria-label="Authentication">
      <Field label="What lets us in" help="Its documentation says so under “authentication”.">
        <select
          className="select w-full"
          value={authentication.kind}
          onChange={(event) => choose(event.target.value as Kind)}
        >
          {KINDS.map(([kind, label]) => (
            <option key={kind} value={kind}>
              {label}
            </option>
          ))}
        </select>
      </Field>
      {partsOf(authentication).map(([label, name, value, help]) => text(label, name, value, help))}
      {'scopes' in authentication && (
        <Field label="Scopes" help="Separated by blanks; none if its documentation names none.">
          <input
            className="input w-full font-mono"
            value={authentication.scopes.join(' ')}
            spellCheck={false}
            onChange={(event) => set({ scopes: event.target.value.split(/\s+/).filter(Boolean) })}
          />
        </Field>
      )}
      {authentication.kind === 'signature' && (
        <>
          <Field
            label="What is signed"
            help="{method} {target} {path} {host} {time} {key} {body} {bodyHash} stand for those."
          >
            <textarea
              className="textarea w-full font-mono"
              rows={4}
              spellCheck={false}
              value={authentication.canonical}
              onChange={(event) => set({ canonical: event.target.value })}
            />
          </Field>
          <div className="grid grid-cols-3 gap-2">
            <Choice
              label="Hash"
              value={authentication.hash}
              of={['sha256', 'sha512']}
              onChange={(hash) => set({ hash })}
            />
            <Choice
              label="Written in"
              value={authentication.encoding}
              of={['hex', 'base64']}
              onChange={(encoding) => set({ encoding })}
            />
            <Choice
              label="Time in"
              value={authentication.time ?? 'seconds'}
              of={['seconds', 'milliseconds', 'ISO 8601']}
              onChange={(time) => set({ time })}
            />
          </div>
        </>
      )}
    </section>
  );
}

type Part = [label: string, name: string, value: string, help?: string];

/** The names that the service gives to the parts of a way. */
function partsOf(authentication: Authentication): Part[] {
  switch (authentication.kind) {
    case 'key in header':
      return [
        ['Header', 'header', authentication.header],
        ['Before the key', 'prefix', authentication.prefix ?? '', 'Such as “Token ”; usually nothing.'],
      ];
    case 'key in query':
      return [['Parameter', 'parameter', authentication.parameter]];
    case 'signature':
      return [
        ['Header of the key', 'keyHeader', authentication.keyHeader],
        ['Header of the time', 'timeHeader', authentication.timeHeader ?? ''],
        ['Header of the signature', 'signatureHeader', authentication.signatureHeader],
      ];
    case 'OAuth, granted by a person':
      return [
        ['Window in which access is granted', 'authorize', authentication.authorize, 'A path, or a whole address.'],
        ['Token address', 'token', authentication.token],
      ];
    case 'OAuth, by client':
      return [['Token address', 'token', authentication.token, 'A path, or a whole address.']];
    case 'none':
    case 'bearer':
    case 'user and password':
    case 'secret address':
      return [];
    default:
      return authentication satisfies never;
  }
}

interface ChoiceProps {
  label: string;
  value: string;
  of: string[];
  onChange: (value: string) => void;
}

function Choice({ label, value, of, onChange }: ChoiceProps) {
  return (
    <Field label={label}>
      <select className="select w-full" value={value} onChange={(event) => onChange(event.target.value)}>
        {of.map((one) => (
          <option key={one}>{one}</option>
        ))}
      </select>
    </Field>
  );
}
