import { Plus } from 'lucide-react';
import { useState } from 'react';
import { Link, Navigate, useNavigate, useParams } from 'react-router';
import type { PurposeView } from '../../../contract/purposes.ts';
import { CHANNEL_WORDS } from '../../../core/consent/index.ts';
import { useOrganisation } from '../../data/organisation.ts';
import { useAddPurpose, usePurposes } from '../../data/purposes.ts';
import { Dialog } from '../../parts/Dialog.tsx';
import { moveInList } from '../../parts/keys.ts';
import { NameForm } from '../../parts/NameForm.tsx';
import { Empty, Loaded } from '../../parts/States.tsx';
import { Working } from '../../parts/Working.tsx';
import { PurposeEditor } from './PurposeEditor.tsx';
import { WhoAsks } from './WhoAsks.tsx';

/** Where, beside the purposes, it stands who asks. */
const WHO = 'who';

/** What people can consent to: each purpose with its sentences and channels, in one place. */
export function ConsentPage() {
  const purposes = usePurposes();
  const { id } = useParams();
  const [adding, setAdding] = useState(false);
  return (
    <>
      <Loaded query={purposes}>
        {(list) => {
          if (list.length === 0 && id !== WHO)
            return (
              <Empty
                title="No purposes yet"
                action={
                  <div className="flex gap-2">
                    <button className="btn btn-sm btn-primary" onClick={() => setAdding(true)}>
                      Add a purpose
                    </button>
                    <Link className="btn btn-sm" to={`/consent/${WHO}`}>
                      Say who asks
                    </Link>
                  </div>
                }
              >
                A purpose is what people consent to, as they know it: a newsletter, an invitation by text message.
                Routes ask for it, in sentences that are kept here, and only what people agreed to is sent.
              </Empty>
            );
          const open = list.find((purpose) => purpose.id === id);
          if (!open && id !== WHO) return <Navigate to={`/consent/${list[0]?.id}`} replace />;
          return (
            <Working
              id="consent"
              leftLabel="Purposes"
              left={<PurposeList list={list} openId={id ?? ''} onAdd={() => setAdding(true)} />}
              middle={open ? <PurposeEditor key={`${open.id} ${open.updatedAt}`} purpose={open} /> : <Who />}
            />
          );
        }}
      </Loaded>
      <Dialog title="A new purpose" open={adding} onClose={() => setAdding(false)}>
        <NewPurpose onDone={() => setAdding(false)} />
      </Dialog>
    </>
  );
}

function Who() {
  const organisation = useOrganisation();
  return <Loaded query={organisation}>{(saved) => <WhoAsks key={saved.names.join()} saved={saved} />}</Loaded>;
}

function NewPurpose({ onDone }: { onDone: () => void }) {
  const add = useAddPurpose();
  const navigate = useNavigate();
  return (
    <NameForm
      label="Name"
      help="As people know it: they read it when they confirm."
      action="Make it"
      busy={add.isPending}
      error={add.error}
      onSubmit={(name) =>
        add.mutate(
          { name, wordings: [], channels: ['email'] },
          {
            onSuccess: ({ id }) => {
              onDone();
              void navigate(`/consent/${id}`);
            },
          },
        )
      }
      onCancel={onDone}
    />
  );
}

function PurposeList({ list, openId, onAdd }: { list: PurposeView[]; openId: string; onAdd: () => void }) {
  const organisation = useOrganisation();
  return (
    <div onKeyDown={moveInList}>
      <Link
        data-row
        to={`/consent/${WHO}`}
        aria-current={openId === WHO ? 'page' : undefined}
        className={`block px-3 py-2.5 border-b border-base-300 hover:bg-base-200 ${openId === WHO ? 'bg-base-200' : ''}`}
      >
        <strong className="font-semibold">Who asks</strong>
        <span className="block text-muted text-sm truncate">
          {organisation.data?.names.join(', ') || 'nobody said yet'}
        </span>
      </Link>
      <div className="flex items-center justify-between p-3">
        <h1 className="font-semibold text-lg">Purposes</h1>
        <button className="btn btn-sm" onClick={onAdd}>
          <Plus size={15} aria-hidden="true" /> Purpose
        </button>
      </div>
      <ul className="border-t border-base-300">
        {list.map(({ id, name, channels, archived, routes }) => (
          <li key={id} className={`border-b border-base-300 ${id === openId ? 'bg-base-200' : ''}`}>
            <Link
              data-row
              to={`/consent/${id}`}
              aria-current={id === openId ? 'page' : undefined}
              className="block px-3 py-2.5 hover:bg-base-200"
            >
              <strong className="font-semibold">{name}</strong>
              <span className="block text-muted text-sm">
                {archived ? 'archived · ' : ''}
                by {channels.map((channel) => CHANNEL_WORDS[channel]).join(', ')} ·{' '}
                {routes.length === 1 ? '1 route' : `${routes.length} routes`}
              </span>
            </Link>
          </li>
        ))}
      </ul>
    </div>
  );
}
