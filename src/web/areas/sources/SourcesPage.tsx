import { Plus } from 'lucide-react';
import { useState } from 'react';
import { Link, Navigate, useNavigate, useParams } from 'react-router';
import type { SourceView } from '../../../contract/source.ts';
import { Dialog } from '../../parts/Dialog.tsx';
import { DotLine } from '../../parts/DotLine.tsx';
import { moveInList } from '../../parts/keys.ts';
import { NameForm } from '../../parts/NameForm.tsx';
import { StateMark } from '../../parts/StateMark.tsx';
import { Empty, Loaded } from '../../parts/States.tsx';
import { SourceEditor } from './SourceEditor.tsx';
import { useAddSource, useSources } from './useSources.ts';

export function SourcesPage() {
  const sources = useSources();
  const { id } = useParams();
  const [adding, setAdding] = useState(false);
  return (
    <>
      <Loaded query={sources}>
        {(list) => {
          if (list.length === 0) {
            return (
              <Empty
                title="No sources yet"
                action={
                  <button className="btn btn-sm btn-primary" onClick={() => setAdding(true)}>
                    Build a form
                  </button>
                }
              >
                A source is where visitors hand something over, such as a sign-up form. Build it here, publish it, and
                paste its HTML into your page.
              </Empty>
            );
          }
          const open = list.find((source) => source.id === id);
          if (!open) return <Navigate to={`/sources/${list[0]?.id}`} replace />;
          return (
            <SourceEditor
              key={open.id}
              source={open}
              list={<SourceList list={list} openId={open.id} onAdd={() => setAdding(true)} />}
            />
          );
        }}
      </Loaded>
      <Dialog title="A new form" open={adding} onClose={() => setAdding(false)}>
        <NewSource onDone={() => setAdding(false)} />
      </Dialog>
    </>
  );
}

function NewSource({ onDone }: { onDone: () => void }) {
  const add = useAddSource();
  const navigate = useNavigate();
  const submit = (name: string) =>
    add.mutate(name, {
      onSuccess: ({ id }) => {
        onDone();
        void navigate(`/sources/${id}`);
      },
    });
  return (
    <NameForm
      label="Name of the form"
      help="For you and your colleagues; visitors see it only on the form's own page."
      action="Make the form"
      busy={add.isPending}
      error={add.error}
      onSubmit={submit}
      onCancel={onDone}
    />
  );
}

function SourceList({ list, openId, onAdd }: { list: SourceView[]; openId: string; onAdd: () => void }) {
  return (
    <div onKeyDown={moveInList}>
      <div className="flex items-center justify-between p-3">
        <h1 className="font-semibold text-lg">Sources</h1>
        <button className="btn btn-sm" onClick={onAdd}>
          <Plus size={15} aria-hidden="true" /> Form
        </button>
      </div>
      <ul>
        {list.map(({ id, name, state, today, hours }) => (
          <li key={id} className={`border-b border-base-300 ${id === openId ? 'bg-base-200' : ''}`}>
            <Link
              data-row
              to={`/sources/${id}`}
              aria-current={id === openId ? 'page' : undefined}
              className="block px-3 py-2.5 hover:bg-base-200"
            >
              <span className="flex justify-between gap-2">
                <strong className="font-semibold">{name}</strong>
                <StateMark state={state} />
              </span>
              <span className="block text-quiet text-sm">form · {today} in 24 hours</span>
              <DotLine hours={hours} what="submissions" />
            </Link>
          </li>
        ))}
      </ul>
    </div>
  );
}
