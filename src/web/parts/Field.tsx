import { cloneElement, useId, type ReactElement, type ReactNode } from 'react';

interface FieldProps {
  label: string;
  help?: ReactNode;
  /** What is wrong with it, shown beside it and read out with it. */
  error?: string | undefined;
  children: ReactElement<{ id?: string; 'aria-invalid'?: boolean; 'aria-describedby'?: string }>;
}

/** A labelled control with its help and its error. */
export function Field({ label, help, error, children }: FieldProps) {
  const id = useId();
  const described = [help ? `${id}-help` : '', error ? `${id}-error` : ''].filter(Boolean).join(' ');
  return (
    <div className="flex flex-col gap-1">
      <label htmlFor={id} className="font-semibold">
        {label}
      </label>
      {cloneElement(children, {
        id,
        'aria-invalid': Boolean(error),
        ...(described ? { 'aria-describedby': described } : {}),
      })}
      {error && (
        <p id={`${id}-error`} className="text-error font-semibold">
          {error}
        </p>
      )}
      {help && (
        <p id={`${id}-help`} className="text-muted text-sm">
          {help}
        </p>
      )}
    </div>
  );
}
