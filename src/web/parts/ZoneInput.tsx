import { useId } from 'react';

interface ZoneInputProps {
  id?: string;
  'aria-invalid'?: boolean;
  'aria-describedby'?: string;
  zone: string;
  onChange: (zone: string) => void;
}

/** A time zone, by its name in the IANA time zone database. */
export function ZoneInput({ zone, onChange, ...described }: ZoneInputProps) {
  const list = useId();
  return (
    <>
      <input
        className="input w-full"
        list={list}
        value={zone}
        onChange={({ target }) => onChange(target.value.trim())}
        {...described}
      />
      <datalist id={list}>
        {Intl.supportedValuesOf('timeZone').map((name) => (
          <option key={name} value={name} />
        ))}
      </datalist>
    </>
  );
}
