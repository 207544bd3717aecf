import type { SourceView } from '../../../contract/source.ts';
import type { MadeDocument } from '../../../core/intake/index.ts';
import { Compared } from './Compared.tsx';

interface PublishChangesProps {
  source: SourceView;
  draft: MadeDocument;
  onPublish: () => void;
  onCancel: () => void;
}

/** Before changes go live: what visitors get now and will get, which fields change, and which routes that touches. */
export function PublishChanges({ source: { id, live, postUrl }, draft, onPublish, onCancel }: PublishChangesProps) {
  if (live === null) return null;
  return (
    <div className="flex flex-col gap-4">
      <Compared
        sourceId={id}
        address={postUrl}
        before={{ title: 'Now', document: live }}
        after={{ title: 'After publishing', document: draft }}
      />
      <div className="flex gap-2">
        <button className="btn btn-primary" onClick={onPublish}>
          Publish
        </button>
        <button className="btn" onClick={onCancel}>
          Cancel
        </button>
      </div>
    </div>
  );
}
