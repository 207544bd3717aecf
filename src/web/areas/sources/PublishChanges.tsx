import { useState } from 'react';
import type { SourceView } from '../../../contract/source.ts';
import type { MadeDocument } from '../../../core/intake/index.ts';
import type { Agreed } from '../../data/publishing.ts';
import { useNewWords } from '../../data/sources.ts';
import { PublishOrCancel } from '../../parts/PublishOrCancel.tsx';
import { Loaded } from '../../parts/States.tsx';
import { Compared } from './Compared.tsx';

interface PublishChangesProps {
  source: SourceView;
  draft: MadeDocument;
  /** @param agreed the new words of which somebody said what people agree to by them */
  onPublish: (agreed: Agreed[]) => void;
  onCancel: () => void;
}

/**
 * Before changes go live: what visitors get now and will get, everything that differs, which routes that touches, and what people agree
 * to by new words.
 */
export function PublishChanges({
  source: { id, live, postUrl, draftAt },
  draft,
  onPublish,
  onCancel,
}: PublishChangesProps) {
  const words = useNewWords(id, draftAt);
  const [decided, setDecided] = useState<string[]>([]);
  if (live === null) return null;
  const undecided = (words.data ?? []).filter((one) => !decided.includes(keyOf(one)));
  return (
    <div className="flex flex-col gap-4">
      <Compared
        sourceId={id}
        address={postUrl}
        before={{ title: 'Now', document: live }}
        after={{ title: 'After publishing', document: draft }}
      />
      <Loaded query={words}>
        {(list) =>
          list.length === 0 ? null : (
            <fieldset className="flex flex-col gap-2">
              <legend className="font-semibold mb-1">What do people agree to with these new words?</legend>
              {list.map((one) => (
                <label key={keyOf(one)} className="flex gap-2 items-start">
                  <input
                    type="checkbox"
                    className="checkbox checkbox-sm mt-0.5"
                    checked={decided.includes(keyOf(one))}
                    onChange={({ target }) =>
                      setDecided((before) =>
                        target.checked ? [...before, keyOf(one)] : before.filter((key) => key !== keyOf(one)),
                      )
                    }
                  />
                  <span>
                    With “{one.wording}”, people agree to <strong className="font-semibold">{one.name}</strong>.
                    <span className="block text-muted">Taken as that by {one.routes.join(' and ')}.</span>
                  </span>
                </label>
              ))}
              <p className="text-muted">
                Where the words speak of something else, choose another purpose in the route first: consent is written
                down in the words that people saw.
              </p>
            </fieldset>
          )
        }
      </Loaded>
      <PublishOrCancel
        disabled={!words.data || undecided.length > 0}
        onPublish={() => onPublish((words.data ?? []).map(({ purpose, wording }) => ({ purpose, wording })))}
        onCancel={onCancel}
      />
    </div>
  );
}

const keyOf = ({ purpose, wording }: Agreed): string => `${purpose} ${wording}`;
