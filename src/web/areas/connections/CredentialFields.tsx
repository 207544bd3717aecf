import type { CredentialInputs } from '../../../contract/connection.ts';
import type { Credential } from '../../../contract/profile/index.ts';
import { Field } from '../../parts/Field.tsx';

interface CredentialFieldsProps {
  credentials: Credential[];
  values: CredentialInputs;
  /** The ends of those that are there already, which an empty box keeps. */
  hints?: CredentialInputs;
  errorOf: (name: Credential['name']) => string | undefined;
  onChange: (values: CredentialInputs) => void;
}

/** What a person has to paste, each with where it is found and whether it is shown only once. */
export function CredentialFields({ credentials, values, hints, errorOf, onChange }: CredentialFieldsProps) {
  return (
    <>
      {credentials.map(({ name, label, help, shownOnce }) => {
        const hint = hints?.[name];
        const isSecret = name !== 'user' && name !== 'clientId';
        return (
          <Field
            key={name}
            label={hint === undefined ? label : `New ${label}`}
            error={errorOf(name)}
            help={
              <>
                {hint !== undefined && <>Leave it empty to keep {hint}. </>}
                {help}
                {shownOnce && (
                  <strong className="font-semibold"> It is shown only once: copy it before you close that page.</strong>
                )}
              </>
            }
          >
            <input
              className="input w-full font-mono"
              type={isSecret ? 'password' : 'text'}
              autoComplete="off"
              spellCheck={false}
              value={values[name] ?? ''}
              onChange={(event) => onChange({ ...values, [name]: event.target.value })}
            />
          </Field>
        );
      })}
    </>
  );
}
