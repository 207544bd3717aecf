import type { SourceField, Trust } from '../../../core/values/index.ts';
import { FieldsEditor } from './FieldsEditor.tsx';
import { TrustField } from './TrustField.tsx';

interface FieldsPartProps {
  /** What they are taken out of, such as "row". */
  of: string;
  document: { fields: SourceField[]; trust: Trust };
  set: (part: { fields: SourceField[] } | { trust: Trust }) => void;
  /** What is wrong with the part at a JSON Pointer. */
  about: (pointer: string) => string | undefined;
  liveIds: string[];
}

/** The fields that are taken out of what programs send, or files hold, and how far they are trusted. */
export function FieldsPart({ of, document: { fields, trust }, set, about, liveIds }: FieldsPartProps) {
  return (
    <section aria-labelledby="fields">
      <h3 id="fields" className="text-lg font-semibold">
        Fields
      </h3>
      <p className="text-muted mb-3">
        What is taken out of each {of}. The whole {of} is kept beside it.
      </p>
      <FieldsEditor fields={fields} liveIds={liveIds} onChange={(next) => set({ fields: next })} about={about} />
      <div className="mt-4 max-w-md">
        <TrustField trust={trust} onChange={(next) => set({ trust: next })} error={about('/trust')} />
      </div>
    </section>
  );
}
