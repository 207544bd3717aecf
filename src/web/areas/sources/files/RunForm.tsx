import { useState } from 'react';
import { MOST_A_MINUTE, type ImportEvidence, type ImportView } from '../../../../contract/imports.ts';
import type { SourceView } from '../../../../contract/source.ts';
import { ApiProblem } from '../../../data/api.ts';
import type { useActOnImport } from '../../../data/imports.ts';
import { AGREED, EvidenceFields } from './EvidenceFields.tsx';
import { countedRows, rowsOf } from './rowsOf.ts';
import { Field } from '../../../parts/Field.tsx';

interface RunFormProps {
  source: SourceView;
  file: ImportView;
  act: ReturnType<typeof useActOnImport>;
}

const AGREED_IN_SHOP: Record<ImportEvidence['agreed'], string> = {
  no: 'nothing, whatever the shop has of them',
  given: 'to what each said there, in its words',
  confirmed: 'to what each said there, and confirmed that the address is theirs',
};

/** What is said of the people in a file before it is rehearsed or taken. */
export function RunForm({ source, file, act }: RunFormProps) {
  const [evidence, setEvidence] = useState(file.evidence);
  const [perMinute, setPerMinute] = useState(file.perMinute);
  const set = (part: Partial<ImportEvidence>) => setEvidence({ ...evidence, ...part });
  const about = (pointer: string) => (act.error instanceof ApiProblem ? act.error.about(pointer) : undefined);
  const isBusy = file.state !== 'ready' || act.isPending;
  return (
    <form
      className="flex flex-col gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        act.mutate({ act: 'rehearse', evidence });
      }}
    >
      <EvidenceFields
        evidence={evidence}
        words={file.fetched === null ? AGREED : AGREED_IN_SHOP}
        asks={file.fetched === null ? 'all' : 'what alone'}
        set={set}
        about={about}
      />
      <Field label={file.fetched === null ? 'Rows a minute' : 'Customers a minute'} error={about('/perMinute')}>
        <input
          className="input w-32"
          type="number"
          min={1}
          max={MOST_A_MINUTE}
          value={perMinute}
          onChange={({ target }) => setPerMinute(Number(target.value))}
        />
      </Field>
      <div className="flex flex-wrap gap-2">
        <button className="btn btn-sm" disabled={isBusy}>
          Rehearse all {rowsOf(file)}
        </button>
        <button
          type="button"
          className="btn btn-sm btn-primary"
          disabled={isBusy || file.rehearsed === null || source.state !== 'live'}
          onClick={() => act.mutate({ act: 'begin', run: { ...evidence, perMinute } })}
        >
          Take {countedRows(file, file.total)}
        </button>
      </div>
      {source.state !== 'live' ? (
        <p className="text-muted text-sm">Publish the source: rows are read by its fields as they are live.</p>
      ) : (
        file.rehearsed === null && <p className="text-muted text-sm">Rehearse it first: nothing is taken by that.</p>
      )}
    </form>
  );
}
