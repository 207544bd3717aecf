import type { ImportEvidence } from '../../../../contract/imports.ts';
import { Field } from '../../../parts/Field.tsx';

export const AGREED: Record<ImportEvidence['agreed'], string> = {
  no: 'nothing: nobody was asked',
  given: 'they agreed',
  confirmed: 'they agreed, and confirmed that the address is theirs',
};

interface EvidenceFieldsProps {
  evidence: ImportEvidence;
  /** What each thing that can be said is called. */
  words: Record<ImportEvidence['agreed'], string>;
  /** What alone: where they agreed, and when, is in what is read. All but when: it is the day on which a file comes. */
  asks: 'all' | 'all but when' | 'what alone';
  set: (part: Partial<ImportEvidence>) => void;
  about: (pointer: string) => string | undefined;
}

/** What is said of the people in a file: what they agreed to, in which words, where and when. */
export function EvidenceFields({ evidence, words, asks, set, about }: EvidenceFieldsProps) {
  return (
    <>
      <Field
        label="What these people agreed to"
        help="Nobody in it is sent a mail: neither one that asks to confirm, nor an answer. Whoever took back their consent here stays out."
        error={about('/agreed')}
      >
        <select
          className="select w-full"
          value={evidence.agreed}
          onChange={({ target }) => set({ agreed: target.value as ImportEvidence['agreed'] })}
        >
          {Object.entries(words).map(([agreed, said]) => (
            <option key={agreed} value={agreed}>
              {said}
            </option>
          ))}
        </select>
      </Field>
      {evidence.agreed !== 'no' && asks !== 'what alone' && (
        <>
          <Field label="In these words" error={about('/words')}>
            <textarea
              className="textarea w-full"
              rows={2}
              value={evidence.words}
              onChange={({ target }) => set({ words: target.value })}
            />
          </Field>
          <Field
            label="Where"
            help="Such as a paper list at the gate, or the system they come from."
            error={about('/where')}
          >
            <input
              className="input w-full"
              value={evidence.where}
              onChange={({ target }) => set({ where: target.value })}
            />
          </Field>
          {asks === 'all' && (
            <Field label="When" help="The last day of it, where it was over a time." error={about('/when')}>
              <input
                className="input w-full"
                type="date"
                value={evidence.when}
                onChange={({ target }) => set({ when: target.value })}
              />
            </Field>
          )}
        </>
      )}
    </>
  );
}
