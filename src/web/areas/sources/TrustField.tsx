import { TRUSTS, type Trust } from '../../../core/values/index.ts';
import { Field } from '../../parts/Field.tsx';

const TRUST_WORDS: Record<Trust, string> = {
  less: 'less than usual',
  usual: 'as usual',
  more: 'more than usual',
};

interface TrustFieldProps {
  trust: Trust;
  onChange: (trust: Trust) => void;
  error: string | undefined;
}

/** How far what a source says of people is trusted. */
export function TrustField({ trust, onChange, error }: TrustFieldProps) {
  return (
    <Field
      label="What it says of people is trusted"
      help="Beside what other sources say of the same person. It counts for fields that keep the most trusted."
      error={error}
    >
      <select className="select w-auto" value={trust} onChange={({ target }) => onChange(target.value as Trust)}>
        {TRUSTS.map((one) => (
          <option key={one} value={one}>
            {TRUST_WORDS[one]}
          </option>
        ))}
      </select>
    </Field>
  );
}
