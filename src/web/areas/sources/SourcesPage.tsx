import { Plus } from 'lucide-react';
import { useState } from 'react';
import { Link, Navigate, useLocation, useNavigate, useParams } from 'react-router';
import type { SourceLine } from '../../../contract/entries.ts';
import { FIRST_START, SOURCE_KINDS, STARTS, type MadeKind } from '../../../core/intake/index.ts';
import { Chooser } from '../../parts/Chooser.tsx';
import { Dialog } from '../../parts/Dialog.tsx';
import { DotLine } from '../../parts/DotLine.tsx';
import { EntryMore } from '../../parts/entries/EntryDialog.tsx';
import { EntryList } from '../../parts/entries/EntryList.tsx';
import { foldersOf } from '../../parts/entries/useEntries.ts';
import { ImportButton } from '../../parts/ImportButton.tsx';
import { Field } from '../../parts/Field.tsx';
import { NameForm } from '../../parts/NameForm.tsx';
import { StateMark } from '../../parts/StateMark.tsx';
import { Empty, Loaded } from '../../parts/States.tsx';
import { Working } from '../../parts/Working.tsx';
import { OwnFiles } from './OwnFiles.tsx';
import { TakeOver } from './TakeOver.tsx';
import { SourceEditor } from './SourceEditor.tsx';
import { useSession } from '../../data/session.ts';
import { useShopChoices } from '../../data/shops.ts';
import { useAddSource, usePagesMetOn, useSource, useSourceLines } from '../../data/sources.ts';

export function SourcesPage() {
  const lines = useSourceLines();
  const { id = '' } = useParams();
  const { search } = useLocation();
  const source = useSource(id);
  const [adding, setAdding] = useState(false);
  const [taking, setTaking] = useState(false);
  const close = () => {
    setAdding(false);
    setTaking(false);
  };
  return (
    <>
      <Loaded query={lines}>
        {(all) => {
          if (all.length === 0) {
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
          if (!all.some((line) => line.id === id) && !source.data && !source.isFetching)
            return <Navigate to={{ pathname: `/sources/${firstOf(all)}`, search }} replace />;
          const list = <SourceList lines={all} openId={id} onAdd={() => setAdding(true)} />;
          return source.data ? (
            <SourceEditor key={source.data.id} source={source.data} folders={foldersOf(all)} list={list} />
          ) : (
            <Working
              id="sources"
              leftLabel="Sources"
              left={list}
              leftSize="21%"
              middle={<Loaded query={source}>{() => null}</Loaded>}
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

const KIND_WORDS: Record<MadeKind, string> = {
  form: 'form',
  posts: 'webhook',
  file: 'file',
  shop: 'shop',
  registration: 'members',
  chat: 'chat',
};

const KIND_HELP: Record<MadeKind, string> = {
  form: 'Form: visitors fill it in, on your page or on its own.',
  file: 'File: a list of people that was kept elsewhere, row by row.',
  shop: 'Shop: what happens in a connected shop, and what its customers agreed to.',
  chat: 'Chat: a conversation by steps, which a colleague can take over.',
  registration: 'Registration: a site tells who registers, becomes a member, and is one no more.',
  posts: 'Inbound webhook: another system sends what it has to an address of yours.',
};

function NewSource({ onDone, onTakeOver }: { onDone: () => void; onTakeOver: () => void }) {
  const add = useAddSource();
  const navigate = useNavigate();
  const [kind, setKind] = useState<MadeKind>('form');
  const [start, setStart] = useState(FIRST_START.id);
  const shops = useShopChoices(kind === 'shop');
  const [shop, setShop] = useState('');
  const free = shops.data?.filter(({ sourceId }) => sourceId === null) ?? [];
  const connectionId = shop === '' ? (free[0]?.id ?? '') : shop;
  const pages = usePagesMetOn();
  const [chosen, setPage] = useState<string | null>(null);
  const page = chosen ?? pages.data?.[0] ?? '';
  const session = useSession();
  const [typedTell, setTell] = useState<string | null>(null);
  const tell = typedTell ?? session.data?.account.email ?? '';
  const submit = (name: string, live = false) =>
    add.mutate(
      {
        name,
        kind,
        ...(kind === 'form' ? { start } : {}),
        ...(kind === 'shop' ? { connectionId } : {}),
        ...(live ? { tell, page } : {}),
      },
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
      suggested={
        kind === 'form'
          ? (STARTS.find(({ id }) => id === start)?.name ?? '')
          : kind === 'shop'
            ? (free.find(({ id }) => id === connectionId)?.name ?? '')
            : ''
      }
      {...(kind === 'form'
        ? {
            also: {
              action: 'Make it, and show it on',
              onSubmit: (name) => submit(name, true),
              disabled: tell.trim() === '',
              beside: (
                <>
                  <Chooser
                    className="max-w-sm"
                    label="The page on which it is shown at once"
                    placeholder="a page of its own"
                    items={(pages.data ?? []).map((address) => ({
                      id: address,
                      name: address.replace(/^https?:\/\//, ''),
                    }))}
                    value={page}
                    onChange={setPage}
                  />
                  <Field
                    label="Who gets a mail for each submission"
                    help="Nothing goes live of which nobody hears. Lists and other systems are added to its route."
                  >
                    <input
                      type="email"
                      className="input input-sm w-full max-w-sm"
                      value={tell}
                      onChange={(event) => setTell(event.target.value)}
                    />
                  </Field>
                </>
              ),
            },
          }
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
      {kind === 'shop' && shops.data && (
        <div>
          {free.length > 0 ? (
            <Chooser
              className="max-w-sm"
              label="Which shop"
              placeholder="a connected shop"
              items={free}
              value={connectionId}
              onChange={setShop}
            />
          ) : (
            <p>
              {shops.data.length > 0 ? 'Every connected shop is a source already. ' : 'No shop is connected yet. '}
              <Link className="plain-link" to="/connections/new">
                Connect a shop
              </Link>
            </p>
          )}
        </div>
      )}
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
                  <span className="block text-muted text-sm">{one.help}</span>
                </span>
              </label>
            ))}
          </div>
        </fieldset>
      )}
    </NameForm>
  );
}

const saysOf = ({ kind }: SourceLine): string => kind;

function SourceList({ lines, openId, onAdd }: { lines: SourceLine[]; openId: string; onAdd: () => void }) {
  const navigate = useNavigate();
  const [files, setFiles] = useState(false);
  const onImported = (id: string) => void navigate(`/sources/${id}`);
  const folders = foldersOf(lines);
  return (
    <EntryList
      title="Sources"
      what="a source"
      stateOf="publishing"
      lines={lines}
      openId={openId}
      to={(id) => `/sources/${id}`}
      saysOf={saysOf}
      actions={
        <>
          <ImportButton what="source" onImported={onImported} />
          <button className="btn btn-sm" onClick={onAdd}>
            <Plus size={15} aria-hidden="true" /> Source
          </button>
        </>
      }
      more={(line) => <EntryMore entries="sources" entry={line} folders={folders} />}
      below={
        <p className="p-3">
          <button className="plain-link" onClick={() => setFiles(true)}>
            Pictures and files of yours
          </button>
          <Dialog title="Pictures and files of yours" open={files} onClose={() => setFiles(false)} wide>
            {files && <OwnFiles />}
          </Dialog>
        </p>
      }
    >
      {({ name, kind, state, today, hours, folder, archivedAt, changed, liveVersion }) => (
        <>
          <strong className="font-semibold block truncate" title={name}>
            {name}
          </strong>
          <span className="flex justify-between gap-2 text-muted text-sm">
            <span className="truncate">
              {[KIND_WORDS[kind], folder, `${today} in 24 hours`].filter((text) => text !== '').join(' · ')}
            </span>
            <StateMark
              of="publishing"
              state={archivedAt !== null ? 'archived' : changed && liveVersion !== null ? 'changed' : state}
              iconOnly
            />
          </span>
          <DotLine hours={hours} what="submissions" />
        </>
      )}
    </EntryList>
  );
}

/** The first that is in use. */
const firstOf = (lines: SourceLine[]): string =>
  [...lines].sort((a, b) => a.name.localeCompare(b.name)).find(({ archivedAt }) => archivedAt === null)?.id ??
  lines[0]?.id ??
  '';
