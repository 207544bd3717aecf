import { Trash2 } from 'lucide-react';
import { Link } from 'react-router';
import { inBytes } from '../../../core/values/index.ts';
import { useOwnFiles, useRemoveOwnFile } from '../../data/ownFiles.ts';
import { ActionError, Loaded } from '../../parts/States.tsx';

/** Pictures and other files of yours: which forms have them, and what can go. */
export function OwnFiles() {
  const files = useOwnFiles();
  const remove = useRemoveOwnFile();
  return (
    <Loaded query={files}>
      {(list) =>
        list.length === 0 ? (
          <p>None yet. Pictures are added where a form shows them, downloads where it hands them out.</p>
        ) : (
          <>
            <ul className="flex flex-col max-h-[60vh] overflow-auto">
              {list.map(({ id, name, width, height, size, forms }) => (
                <li key={id} className="flex items-center gap-3 py-2 border-b border-base-300">
                  {width > 0 ? (
                    <img
                      src={`/place/files/${id}`}
                      alt=""
                      className="w-12 h-12 object-contain shrink-0"
                      loading="lazy"
                    />
                  ) : (
                    <span className="w-12 shrink-0" />
                  )}
                  <span className="min-w-0 flex-1">
                    <span className="block truncate">{name}</span>
                    <span className="block text-muted text-sm">
                      {width > 0 && `${width} × ${height} px, `}
                      {inBytes(size)}
                      {forms.length === 0 ? ', in no form' : ', in '}
                      {forms.map((form, at) => (
                        <span key={form.id}>
                          {at > 0 && ', '}
                          <Link className="plain-link" to={`/sources/${form.id}`}>
                            {form.name}
                          </Link>
                        </span>
                      ))}
                    </span>
                  </span>
                  {forms.length === 0 && (
                    <button
                      className="btn btn-sm btn-ghost btn-square"
                      aria-label={`Remove ${name}`}
                      title="Remove it; links that were handed out lead nowhere then"
                      disabled={remove.isPending}
                      onClick={() => remove.mutate(id)}
                    >
                      <Trash2 size={15} aria-hidden="true" />
                    </button>
                  )}
                </li>
              ))}
            </ul>
            <ActionError error={remove.error} />
          </>
        )
      }
    </Loaded>
  );
}
