import { Plus } from 'lucide-react';
import { useState } from 'react';
import { Link, Navigate, useNavigate, useParams } from 'react-router';
import type { SourceView } from '../../../contract/source.ts';
import { FIRST_START, SOURCE_KINDS, STARTS, type MadeKind } from '../../../core/intake/index.ts';
import { Dialog } from '../../parts/Dialog.tsx';
import { DotLine } from '../../parts/DotLine.tsx';
import { moveInList } from '../../parts/keys.ts';
import { ImportButton } from '../../parts/ImportButton.tsx';
import { NameForm } from '../../parts/NameForm.tsx';
import { StateMark } from '../../parts/StateMark.tsx';
import { Empty, Loaded } from '../../parts/States.tsx';
import { OwnFiles } from './OwnFiles.tsx';
import { TakeOver } from './TakeOver.tsx';
import { SourceEditor } from './SourceEditor.tsx';
import { useAddSource, useSources } from '../../data/sources.ts';

export function SourcesPage() {
  const sources = useSources();
  const { id } = useParams();
  const [adding, setAdding] = useState(false);
  const [taking, setTaking] = useState(false);
  const close = () => {
    setAdding(false);
    setTaking(false);
  };
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
                    Add a source
                  </button>
                }
              >
                A source is where visitors hand something over: a form that you build here and paste into your page, or
                an address to which another system posts.
              </Empty>
            );
          }
          const open = list.find((source) => source.id === id);
          if (!open) {
            const first = list.find(({ archivedAt }) => archivedAt === null) ?? list[0];
            return <Navigate to={`/sources/${first?.id}`} replace />;
          }
          return (
            <SourceEditor
              key={open.id}
              source={open}
              list={<SourceList list={list} openId={open.id} onAdd={() => setAdding(true)} />}
            />
          );
        }}
      </Loaded>
      <Dialog title="A new source" open={adding} onClose={close} wide>
        {taking ? <TakeOver onDone={close} /> : <NewSource onDone={close} onTakeOver={() => setTaking(true)} />}
      </Dialog>
    </>
  );
}

const KIND_HELP: Record<MadeKind, string> = {
  form: 'Form: visitors fill it in, on your page or on its own.',
  posts: 'Posts from elsewhere: another system sends JSON or form posts to an address of yours.',
};

function NewSource({ onDone, onTakeOver }: { onDone: () => void; onTakeOver: () => void }) {
  const add = useAddSource();
  const navigate = useNavigate();
  const [kind, setKind] = useState<MadeKind>('form');
  const [start, setStart] = useState(FIRST_START.id);
  const submit = (name: string, live = false) =>
    add.mutate(
      { name, kind, live, ...(kind === 'form' ? { start } : {}) },
      {
        onSuccess: ({ id }) => {
          onDone();
          void navigate(`/sources/${id}`);
        },
      },
    );
  return (
    <NameForm
      label="Name"
      help="For you and your colleagues; visitors do not see it."
      action="Make it"
      busy={add.isPending}
      error={add.error}
      onSubmit={(name) => submit(name)}
      suggested={kind === 'form' ? (STARTS.find(({ id }) => id === start)?.name ?? '') : ''}
      {...(kind === 'form'
        ? { also: { action: 'Make it, and publish it', onSubmit: (name) => submit(name, true) } }
        : {})}
      onCancel={onDone}
    >
      <fieldset className="flex flex-col gap-1">
        <legend className="font-semibold">Kind</legend>
        {SOURCE_KINDS.map((one) => (
          <label key={one} className="flex gap-2 items-start py-0.5">
            <input
              type="radio"
              name="kind"
              className="radio radio-sm mt-0.5"
              checked={kind === one}
              onChange={() => setKind(one)}
            />
            <span>{KIND_HELP[one]}</span>
          </label>
        ))}
        <p className="pl-7">
          <button type="button" className="plain-link" onClick={onTakeOver}>
            Take over a form that you have already
          </button>
        </p>
      </fieldset>
      {kind === 'form' && (
        <fieldset className="flex flex-col">
          <legend className="font-semibold">Begin with</legend>
          <div className="grid sm:grid-cols-2 gap-x-4">
            {STARTS.map((one) => (
              <label key={one.id} className="flex gap-2 items-start py-1">
                <input
                  type="radio"
                  name="start"
                  className="radio radio-sm mt-0.5"
                  checked={start === one.id}
                  onChange={() => setStart(one.id)}
                />
                <span>
                  {one.name}
                  <span className="block text-quiet text-sm">{one.help}</span>
                </span>
              </label>
            ))}
          </div>
        </fieldset>
      )}
    </NameForm>
  );
}

function SourceList({ list, openId, onAdd }: { list: SourceView[]; openId: string; onAdd: () => void }) {
  const navigate = useNavigate();
  const [archived, setArchived] = useState(false);
  const [files, setFiles] = useState(false);
  const away = list.filter(({ archivedAt }) => archivedAt !== null);
  const shown = list.filter(({ id, archivedAt }) => archived || archivedAt === null || id === openId);
  const onImported = (id: string) => void navigate(`/sources/${id}`);
  return (
    <div onKeyDown={moveInList}>
      <div className="flex items-center justify-between p-3">
        <h1 className="font-semibold text-lg">Sources</h1>
        <span>
          <ImportButton what="source" onImported={onImported} />
          <button className="btn btn-sm" onClick={onAdd}>
            <Plus size={15} aria-hidden="true" /> Source
          </button>
        </span>
      </div>
      <ul>
        {shown.map(({ id, name, state, today, hours, draft, archivedAt, changed, liveVersion }) => (
          <li key={id} className={`border-b border-base-300 ${id === openId ? 'bg-base-200' : ''}`}>
            <Link
              data-row
              to={`/sources/${id}`}
              aria-current={id === openId ? 'page' : undefined}
              className="block px-3 py-2.5 hover:bg-base-200"
            >
              <span className="flex justify-between gap-2">
                <strong className="font-semibold">{name}</strong>
                <StateMark state={archivedAt === null ? state : 'archived'} />
              </span>
              <span className="block text-quiet text-sm">
                {draft.kind} · {today} in 24 hours{changed && liveVersion !== null && ' · changed, not published'}
              </span>
              <DotLine hours={hours} what="submissions" />
            </Link>
          </li>
        ))}
      </ul>
      <p className="px-3 pt-3">
        <button className="plain-link" onClick={() => setFiles(true)}>
          Pictures and files of yours
        </button>
      </p>
      <Dialog title="Pictures and files of yours" open={files} onClose={() => setFiles(false)} wide>
        {files && <OwnFiles />}
      </Dialog>
      {away.length > 0 && (
        <p className="p-3">
          <button className="plain-link" onClick={() => setArchived(!archived)}>
            {archived ? 'Leave out what is archived' : `Show what is archived (${away.length})`}
          </button>
        </p>
      )}
    </div>
  );
}
