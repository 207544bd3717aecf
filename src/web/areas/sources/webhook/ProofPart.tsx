import { ENCODINGS, HASHES, PROOFS, type Proof } from '../../../../core/intake/index.ts';
import { Field } from '../../../parts/Field.tsx';

interface ProofPartProps {
  proof: Proof;
  onChange: (proof: Proof) => void;
  about: (pointer: string) => string | undefined;
}

const WORDS: Record<Proof['by'], string> = {
  nothing: 'nothing: anyone who knows the address',
  path: 'a secret at the end of the address',
  bearer: 'a bearer token (Authorization header)',
  basic: 'a user name and password (basic authentication)',
  header: 'a secret in a header',
  'standard webhooks': 'a signature as Standard Webhooks say',
  signature: 'a signature that is described here (HMAC)',
};

/** How whoever sends shows that they may. */
export function ProofPart({ proof, onChange, about }: ProofPartProps) {
  const set = (part: Partial<Proof>) => onChange({ ...proof, ...part });
  const text = (name: 'user' | 'header' | 'canonical' | 'prefix' | 'timeHeader', label: string, help: string) => (
    <Field label={label} help={help} error={about(`/proof/${name}`)}>
      <input
        className="input w-full font-mono"
        value={proof[name]}
        spellCheck={false}
        onChange={({ target }) => set({ [name]: target.value })}
      />
    </Field>
  );
  return (
    <section aria-labelledby="proof" className="flex flex-col gap-3">
      <h3 id="proof" className="text-lg font-semibold">
        Who may send
      </h3>
      <Field
        label="Known by"
        help={
          proof.by === 'nothing'
            ? 'Choose what the other system can do.'
            : 'The secret itself is set beside, under the address. It counts once this is published.'
        }
        error={about('/proof/by')}
      >
        <select
          className="select w-auto max-w-full"
          value={proof.by}
          onChange={({ target }) => set({ by: target.value as Proof['by'] })}
        >
          {PROOFS.map((by) => (
            <option key={by} value={by}>
              {WORDS[by]}
            </option>
          ))}
        </select>
      </Field>
      {proof.by === 'basic' && text('user', 'User name', 'The secret is the password.')}
      {proof.by === 'header' && text('header', 'Header', 'Such as X-Api-Key.')}
      {proof.by === 'signature' && (
        <div className="grid gap-3 sm:grid-cols-2">
          {text('header', 'Header of the signature', 'Such as X-Signature.')}
          {text('prefix', 'What stands before it there', 'Such as sha256=. Empty for nothing.')}
          {text(
            'canonical',
            'What is signed',
            '{body} is the body as it came, {time} what the header of the time says.',
          )}
          {text(
            'timeHeader',
            'Header of the time',
            'In seconds since 1970; older than five minutes is refused. Empty: old ones are taken.',
          )}
          <Field label="Hash">
            <select
              className="select"
              value={proof.hash}
              onChange={({ target }) => set({ hash: target.value as Proof['hash'] })}
            >
              {HASHES.map((hash) => (
                <option key={hash}>{hash}</option>
              ))}
            </select>
          </Field>
          <Field label="Written as">
            <select
              className="select"
              value={proof.encoding}
              onChange={({ target }) => set({ encoding: target.value as Proof['encoding'] })}
            >
              {ENCODINGS.map((encoding) => (
                <option key={encoding}>{encoding}</option>
              ))}
            </select>
          </Field>
        </div>
      )}
    </section>
  );
}
