import { useId, useState } from 'react';
import { printScript, readScript, type ScriptIssue } from '../../../../core/chat/index.ts';
import { meaningOf, type ChatDocument } from '../../../../core/intake/index.ts';
import type { SourceField } from '../../../../core/values/index.ts';
import { newPartId } from '../../../parts/newPartId.ts';

interface ChatScriptProps {
  document: ChatDocument;
  onChange: (part: Pick<ChatDocument, 'parts' | 'fields'>) => void;
}

/** The conversation as text, to be written fast. What cannot be read yet changes nothing, and stays as it is typed. */
export function ChatScript({ document, onChange }: ChatScriptProps) {
  const id = useId();
  const printed = printScript(document);
  const [typed, setTyped] = useState({ text: printed, of: printed });
  // It was changed elsewhere: by undoing, or in the drawing.
  const isElsewhere = typed.of !== printed;
  const text = isElsewhere ? printed : typed.text;
  const [issues, setIssues] = useState<ScriptIssue[]>([]);
  const type = (next: string) => {
    const { scripted, issues: found } = readScript(next, document, newPartId);
    setIssues(found);
    if (found.length > 0) {
      setTyped({ text: next, of: printed });
      return;
    }
    setTyped({ text: next, of: printScript(scripted) });
    onChange({ ...scripted, fields: withMeanings(scripted.fields, document.fields) });
  };
  const shown = isElsewhere ? [] : issues;
  return (
    <div className="flex flex-col gap-3 p-5">
      <label htmlFor={id} className="sr-only">
        The conversation as a script
      </label>
      <textarea
        id={id}
        className="textarea w-full font-mono text-sm leading-6 min-h-[26rem]"
        rows={Math.min(40, text.split('\n').length + 3)}
        value={text}
        spellCheck={false}
        aria-describedby={`${id}-issues`}
        onChange={({ target }) => type(target.value)}
      />
      <ul id={`${id}-issues`} role="status" className="text-error font-semibold">
        {shown.map(({ line, text: said }) => (
          <li key={line}>
            Line {line}: {said}
          </li>
        ))}
      </ul>
      <details>
        <summary className="cursor-pointer">How it is written</summary>
        <div className="text-sm mt-2 flex flex-col gap-2 max-w-prose">
          <p>
            A part begins at the margin with its name; its steps are indented, one a line. What people read stands in
            quotes, and {'{name}'} in it is what was answered. <code>&gt; Name</code> leads to a part.
          </p>
          <pre className="box p-3 overflow-x-auto">{EXAMPLE}</pre>
        </div>
      </details>
    </div>
  );
}

/** What is new is kept of the person as what its name says, where nothing else is. */
function withMeanings(fields: SourceField[], before: SourceField[]): SourceField[] {
  const taken = new Set(fields.map(({ keepAs }) => keepAs));
  return fields.map((field) => {
    const meaning = before.some(({ id }) => id === field.id) ? '' : meaningOf(field.key);
    if (meaning === '' || taken.has(meaning)) return field;
    taken.add(meaning);
    return { ...field, keepAs: meaning };
  });
}

const EXAMPLE = `Welcome
  say "Clear skies!"
  choose topic "What brings you here?"
    "An evening" > Evenings
    "Something else"
  ask email (email) "Where can we write to you?" > Bye
  agree letter "May we write once a month?" : "Yes, send me the Sky letter."
  form "A little more" name (text), visits (number)
  if topic is "An evening" > Evenings
  if 09:00-17:00 Mon-Fri Europe/London > Desk
  look up topic into desk otherwise "office"
    "An evening" = "box office"
  tell desk@example.org "A question" : "{question}"
  hand over "One moment." 90 s > Bye
  go > Bye
  end "See you!" https://example.org "The evenings"`;
