import { FileUp } from 'lucide-react';
import type { Download } from '../../../../core/forms/index.ts';
import { inBytes } from '../../../../core/values/index.ts';
import { useAddOwnFile, useOwnFiles } from '../../../data/ownFiles.ts';
import { Field } from '../../../parts/Field.tsx';
import { FileButton } from '../../../parts/FileButton.tsx';
import { FigureInput } from '../../../parts/FigureInput.tsx';
import { ActionError } from '../../../parts/States.tsx';

interface DownloadPartProps {
  download: Download | null;
  /** What is wrong with a part of the ending. */
  about: (part: string) => string | undefined;
  onChange: (download: Download | null) => void;
}

const NONE: Download = { label: 'Download', file: '', url: '', days: 7 };
/** In the list of files: what is at an address. */
const AT_ADDRESS = 'address';

/** What is handed out to who sent the form, by a link of their own. */
export function DownloadPart({ download, about, onChange }: DownloadPartProps) {
  const files = useOwnFiles();
  const add = useAddOwnFile();
  if (download === null)
    return (
      <button className="btn btn-sm self-start" onClick={() => onChange(NONE)}>
        <FileUp size={15} aria-hidden="true" /> Hand out a download
      </button>
    );
  const set = (part: Partial<Download>) => onChange({ ...download, ...part });
  return (
    <section aria-label="Download" className="border border-base-300 rounded p-3 flex flex-col gap-3">
      <Field label="Its button says" error={about('/download/label')}>
        <input
          className="input w-full"
          value={download.label}
          onChange={({ target }) => set({ label: target.value })}
        />
      </Field>
      <Field label="What is handed out" error={about('/download/file') ?? about('/download/url') ?? about('/download')}>
        <select
          className="select w-full"
          value={download.file || AT_ADDRESS}
          onChange={({ target: { value } }) => set(value === AT_ADDRESS ? { file: '' } : { file: value, url: '' })}
        >
          <option value={AT_ADDRESS}>what is at an address</option>
          {files.data?.map(({ id, name, size }) => (
            <option key={id} value={id}>
              {name} ({inBytes(size)})
            </option>
          ))}
        </select>
      </Field>
      <FileButton
        icon={<FileUp size={15} aria-hidden="true" />}
        busy={add.isPending}
        onFile={(file) => add.mutate({ file, name: file.name }, { onSuccess: ({ id }) => set({ file: id, url: '' }) })}
      />
      <ActionError error={add.error} />
      {download.file === '' && (
        <Field label="Its address">
          <input
            className="input w-full"
            value={download.url}
            placeholder="https://"
            onChange={({ target }) => set({ url: target.value.trim() })}
          />
        </Field>
      )}
      <FigureInput
        label="Days for which the link works"
        least={1}
        most={365}
        value={download.days}
        onChange={(days) => set({ days })}
      />
      <p className="text-muted text-sm">
        Each visitor gets a link of their own once they sent the form; Insight counts who fetched it.
      </p>
      <button className="btn btn-sm btn-ghost self-start" onClick={() => onChange(null)}>
        Hand out nothing
      </button>
    </section>
  );
}
