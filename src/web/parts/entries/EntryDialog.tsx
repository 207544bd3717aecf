import { Ellipsis } from 'lucide-react';
import { useId, useState, type ReactNode, type SubmitEvent } from 'react';
import { useNavigate } from 'react-router';
import { useCopyEntry, useEntryFate, useNameEntry, useStops, type Entries } from '../../data/entries.ts';
import { Dialog } from '../Dialog.tsx';
import { Field } from '../Field.tsx';
import { ActionError, Loaded } from '../States.tsx';

interface EntryDialogProps {
  entries: Entries;
  entry: { id: string; name: string; folder: string; archivedAt?: string | null };
  /** The folders that there are. */
  folders: string[];
  /** What else can be done with it, where copying, archiving and deleting are not for it. */
  instead?: ReactNode;
}

/** The button that opens what can be done with an entry as a whole: its name, its folder, a copy, the archive, deleting it. */
export function EntryMore(props: EntryDialogProps) {
  const [open, setOpen] = useState(false);
  const { name } = props.entry;
  return (
    <>
      <button
        type="button"
        className="btn btn-ghost btn-sm btn-square"
        aria-label={`More of ${name}`}
        title="Rename, copy, archive, delete"
        onClick={() => setOpen(true)}
      >
        <Ellipsis size={15} aria-hidden="true" />
      </button>
      <Dialog title={name} open={open} onClose={() => setOpen(false)}>
        <EntryForm {...props} onDone={() => setOpen(false)} />
      </Dialog>
    </>
  );
}

function EntryForm({ entries, entry, folders, instead, onDone }: EntryDialogProps & { onDone: () => void }) {
  const naming = useNameEntry(entries, entry.id);
  const [name, setName] = useState(entry.name);
  const [folder, setFolder] = useState(entry.folder);
  const known = useId();
  const submit = (event: SubmitEvent) => {
    event.preventDefault();
    if (name.trim() !== '') naming.mutate({ name: name.trim(), folder: folder.trim() }, { onSuccess: onDone });
  };
  return (
    <div className="flex flex-col gap-4">
      <form onSubmit={submit} className="flex flex-col gap-3" noValidate>
        <Field label="Name" error={name.trim() === '' ? 'Give it a name.' : undefined}>
          <input
            className="input w-full"
            maxLength={80}
            value={name}
            onChange={({ target }) => setName(target.value)}
            autoComplete="off"
          />
        </Field>
        <Field label="Folder" help="One that there is, or a new one; empty for none.">
          <input
            className="input w-full"
            maxLength={60}
            list={known}
            value={folder}
            onChange={({ target }) => setFolder(target.value)}
            autoComplete="off"
          />
        </Field>
        <datalist id={known}>
          {folders.map((one) => (
            <option key={one} value={one} />
          ))}
        </datalist>
        <ActionError error={naming.error} />
        <div className="flex gap-2">
          <button className="btn btn-sm btn-primary" disabled={naming.isPending}>
            Save
          </button>
          <button type="button" className="btn btn-sm" onClick={onDone}>
            Cancel
          </button>
        </div>
      </form>
      <div className="border-t border-base-300 pt-3">
        {instead ?? (entries !== 'connections' && <EntryFate entries={entries} entry={entry} onDone={onDone} />)}
      </div>
    </div>
  );
}

interface EntryFateProps {
  entries: 'sources' | 'routes';
  entry: EntryDialogProps['entry'];
  onDone: () => void;
}

/** Copying, archiving and deleting; what stops is said before. */
function EntryFate({ entries, entry: { id, archivedAt = null }, onDone }: EntryFateProps) {
  const copy = useCopyEntry(entries, id);
  const fate = useEntryFate(entries, id);
  const navigate = useNavigate();
  const [asking, setAsking] = useState<'archive' | 'delete' | null>(null);
  const stops = useStops(entries, id, asking !== null);
  const act = (what: 'archive' | 'restore' | 'delete') =>
    fate.mutate(what, {
      onSuccess: () => {
        onDone();
        if (what === 'delete') void navigate(`/${entries}`);
      },
    });
  const one = entries === 'sources' ? 'source' : 'route';
  return (
    <div className="flex flex-col gap-3">
      <div className="flex flex-wrap gap-2">
        <button
          className="btn btn-sm"
          disabled={copy.isPending}
          onClick={() =>
            copy.mutate(undefined, {
              onSuccess: (made) => {
                onDone();
                void navigate(`/${entries}/${made.id}`);
              },
            })
          }
        >
          Make a copy of this {one}
        </button>
        {archivedAt === null ? (
          <button className="btn btn-sm" aria-expanded={asking === 'archive'} onClick={() => setAsking('archive')}>
            Archive it
          </button>
        ) : (
          <button className="btn btn-sm" disabled={fate.isPending} onClick={() => act('restore')}>
            Take it out of the archive
          </button>
        )}
        <button className="btn btn-sm" aria-expanded={asking === 'delete'} onClick={() => setAsking('delete')}>
          Delete it
        </button>
      </div>
      <ActionError error={copy.error ?? fate.error} />
      {asking !== null && (
        <Loaded query={stops}>
          {({ stops: ends, kept }) => (
            <div role="status" className="flex flex-col gap-2">
              {ends.map((text) => (
                <p key={text}>{text}</p>
              ))}
              {asking === 'archive' && (
                <p>It disappears from the list. Its submissions and figures stay, and you can restore it.</p>
              )}
              {asking === 'delete' && <p>{kept ?? 'Nothing came of it yet. This cannot be undone.'}</p>}
              {!(asking === 'delete' && kept !== null) && (
                <button
                  className={`btn btn-sm self-start ${asking === 'delete' ? 'btn-error' : 'btn-primary'}`}
                  disabled={fate.isPending}
                  onClick={() => act(asking)}
                >
                  {asking === 'delete' ? `Delete this ${one}` : `Archive this ${one}`}
                </button>
              )}
            </div>
          )}
        </Loaded>
      )}
    </div>
  );
}
