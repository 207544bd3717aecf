import { useState } from 'react';

interface LinesInputProps {
  id?: string;
  lines: string[];
  onChange: (lines: string[]) => void;
  rows: number;
  'aria-label'?: string;
  'aria-invalid'?: boolean;
  'aria-describedby'?: string;
}

/** A list of texts, one a line. Blank lines can be typed; they are not part of the list. */
export function LinesInput({ lines, onChange, ...rest }: LinesInputProps) {
  const [text, setText] = useState(lines.join('\n'));
  const parse = (typed: string) =>
    [...new Set(typed.split('\n').map((line) => line.trim()))].filter((line) => line !== '');
  // Undo and other changes from outside show here; what is being typed stays as it is.
  const shown = JSON.stringify(parse(text)) === JSON.stringify(lines) ? text : lines.join('\n');
  return (
    <textarea
      className="textarea w-full"
      value={shown}
      onChange={(event) => {
        setText(event.target.value);
        onChange(parse(event.target.value));
      }}
      {...rest}
    />
  );
}
