import { useState } from 'react';
import type { SourceView } from '../../../contract/source.ts';
import type { MadeDocument } from '../../../core/intake/index.ts';
import { useSourceVersion, useSourceVersions } from '../../data/sources.ts';
import { Loaded } from '../../parts/States.tsx';
import { ExactTime } from '../../parts/Time.tsx';
import { Compared } from './Compared.tsx';

interface SourceVersionsProps {
  source: SourceView;
  draft: MadeDocument;
  /** Takes a version back as the draft. */
  onTake: (document: MadeDocument) => void;
}

/** What was published of a source, each beside the draft, and the way back. */
export function SourceVersions({ source: { id, postUrl, liveVersion }, draft, onTake }: SourceVersionsProps) {
  const versions = useSourceVersions(id);
  const [chosen, setChosen] = useState<number | null>(null);
  const version = chosen ?? liveVersion;
  const document = useSourceVersion(id, version).data;
  return (
    <Loaded query={versions}>
      {(list) => (
        <div className="flex flex-col gap-4">
          <label className="flex items-center gap-2">
            Version
            <select
              className="select select-sm w-auto"
              value={version ?? ''}
              onChange={({ target }) => setChosen(Number(target.value))}
            >
              {list.map((one) => (
                <option key={one.version} value={one.version}>
                  {one.version}
                  {one.version === liveVersion ? ', the newest' : ''}
                </option>
              ))}
            </select>
            <span className="text-muted">
              published{' '}
              <ExactTime at={list.find((one) => one.version === version)?.publishedAt ?? list[0]?.publishedAt ?? ''} />
            </span>
          </label>
          {document && (
            <>
              <Compared
                sourceId={id}
                address={postUrl}
                before={{ title: `Version ${version}`, document }}
                after={{ title: 'The draft', document: draft }}
              />
              <div>
                <button className="btn btn-primary btn-sm" onClick={() => onTake(document)}>
                  Take version {version} as the draft
                </button>{' '}
                <span className="text-muted text-sm">Undo restores the draft as it is now.</span>
              </div>
            </>
          )}
        </div>
      )}
    </Loaded>
  );
}
