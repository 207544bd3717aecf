import { useState, type ReactNode } from 'react';
import { Link } from 'react-router';
import type { SourceView } from '../../../contract/source.ts';
import { chatFaceOf, fieldsOfFaces } from '../../../core/chat/index.ts';
import { faceOf, intoVariant, withVariant, type Compared } from '../../../core/forms/index.ts';
import type {
  FileDocument,
  FormDocument,
  PostsDocument,
  MadeDocument,
  ShopDocument,
  RegistrationDocument,
  ChatDocument,
} from '../../../core/intake/index.ts';
import { usePublishing } from '../../data/publishing.ts';
import { useKeepSource } from '../../data/sources.ts';
import { Dialog } from '../../parts/Dialog.tsx';
import { EntryMore } from '../../parts/entries/EntryDialog.tsx';
import { PublishBar } from '../../parts/PublishBar.tsx';
import { useDraft } from '../../parts/useDraft.ts';
import { Working } from '../../parts/Working.tsx';
import { useTellOpen } from '../../shell/openObject.ts';
import { FormBuilder } from './builder/FormBuilder.tsx';
import { FormSettings } from './builder/FormSettings.tsx';
import { PublishChanges } from './PublishChanges.tsx';
import { SourceVersions } from './SourceVersions.tsx';
import { GoesLive, Standing } from './SourceStanding.tsx';
import { FilePanel } from './files/FilePanel.tsx';
import { FileParts } from './files/FileParts.tsx';
import { ChatBuilder } from './chat/ChatBuilder.tsx';
import { ChatPanel } from './chat/ChatPanel.tsx';
import { ShopPanel } from './shop/ShopPanel.tsx';
import { ShopParts } from './shop/ShopParts.tsx';
import { WebhookPanel, WebhookParts } from './webhook/WebhookParts.tsx';

const RIGHT_LABELS: Record<MadeDocument['kind'], string> = {
  form: 'Settings',
  posts: 'Address and arrivals',
  file: 'Files',
  shop: 'Shop and arrivals',
  registration: 'Address and arrivals',
  chat: 'Settings',
};

interface SourceEditorProps {
  source: SourceView;
  /** The folders that there are. */
  folders: string[];
  list: ReactNode;
}

/** Builds a source: its fields and what happens around them, with what others see of it beside. */
export function SourceEditor({ source, folders, list }: SourceEditorProps) {
  const draft = useDraft<MadeDocument>({ document: source.draft, revision: source.draftAt }, useKeepSource(source.id));
  const publishing = usePublishing('sources', source.id);
  const [selected, setSelected] = useState<string | null>(null);
  const [asking, setAsking] = useState(false);
  const [back, setBack] = useState(false);
  const [editing, setEditing] = useState('');
  const { document: whole, issues } = draft;
  /** The form or chat as the variant shows it that is worked on. */
  const document = whole.kind === 'form' || whole.kind === 'chat' ? withVariant(whole, editing) : whole;
  const change = (next: MadeDocument) => draft.change(changed(whole, editing, next));
  const edit = (id: string) => {
    setSelected(null);
    setEditing(id);
  };
  const about = (pointer: string) =>
    issues.find((issue) => issue.pointer === pointer || issue.pointer.startsWith(`${pointer}/`))?.detail;
  const liveIds = source.live?.fields.map(({ id }) => id) ?? [];
  const set = (
    part:
      | Partial<FormDocument>
      | Partial<PostsDocument>
      | Partial<FileDocument>
      | Partial<ShopDocument>
      | Partial<RegistrationDocument>
      | Partial<ChatDocument>,
  ) => change({ ...document, ...part } as MadeDocument);
  useTellOpen(source.name, source.changed ? 'changed, not published' : source.state, 'changed', source.draftAt);
  return (
    <Working
      id="sources"
      leftLabel="Sources"
      left={list}
      leftSize="21%"
      rightLabel={RIGHT_LABELS[document.kind]}
      right={
        document.kind === 'form' ? (
          <FormSettings
            source={source}
            document={document}
            set={set}
            about={about}
            liveIds={liveIds}
            whole={whole as FormDocument}
            onWhole={draft.change}
            editing={editing}
            onEdit={edit}
            selected={selected}
            onSelect={setSelected}
          />
        ) : document.kind === 'file' ? (
          <FilePanel source={source} />
        ) : document.kind === 'shop' ? (
          <ShopPanel source={source} document={document} />
        ) : document.kind === 'chat' ? (
          <ChatPanel
            {...{ source, document, set, about, selected, editing }}
            whole={whole as ChatDocument}
            onWhole={draft.change}
            onEdit={edit}
          />
        ) : (
          <WebhookPanel source={source} document={document} set={set} />
        )
      }
      middle={
        <>
          <PublishBar
            name={source.name}
            more={<EntryMore entries="sources" entry={source} folders={folders} />}
            exportPath={`/sources/${source.id}/export`}
            view={source}
            draft={draft}
            publishing={publishing}
            onPublish={source.live === null ? undefined : () => setAsking(true)}
            onVersions={() => setBack(true)}
          />
          <Standing source={source} />
          <Dialog title={`Versions of ${source.name}`} open={back} onClose={() => setBack(false)} wide>
            {back && (
              <SourceVersions
                source={source}
                draft={whole}
                onTake={(document) => {
                  setBack(false);
                  setEditing('');
                  draft.change(document);
                }}
              />
            )}
          </Dialog>
          <Dialog title="Publish these changes?" open={asking} onClose={() => setAsking(false)} wide>
            <PublishChanges
              source={source}
              draft={whole}
              onPublish={(agreed) => {
                setAsking(false);
                publishing.mutate({ agreed });
              }}
              onCancel={() => setAsking(false)}
            />
          </Dialog>
          {document.kind === 'form' ? (
            <FormBuilder
              sourceId={source.id}
              document={document}
              variant={document.variants.find(({ id }) => id === editing)?.name ?? ''}
              liveIds={liveIds}
              address={source.postUrl}
              selected={selected}
              onSelect={setSelected}
              onChange={change}
            />
          ) : document.kind === 'file' ? (
            <FileParts source={source} document={document} set={set} about={about} liveIds={liveIds} />
          ) : document.kind === 'shop' ? (
            <ShopParts source={source} document={document} set={set} about={about} liveIds={liveIds} />
          ) : document.kind === 'chat' ? (
            <ChatBuilder
              document={document}
              variant={document.variants.find(({ id }) => id === editing)?.name ?? ''}
              set={set}
              selected={selected}
              onSelect={setSelected}
            />
          ) : (
            <WebhookParts source={source} document={document} set={set} about={about} liveIds={liveIds} />
          )}
          <RoutesOf source={source} />
          <GoesLive source={source} draft={draft} />
        </>
      }
    />
  );
}

/** The whole document after a change to what is worked on: itself, or one of its variants. */
function changed(whole: MadeDocument, editing: string, next: MadeDocument): MadeDocument {
  if (next.kind === 'form' && whole.kind === 'form')
    return isVariant(next, editing) ? intoVariant(whole, editing, next, faceOf) : next;
  if (next.kind !== 'chat' || whole.kind !== 'chat' || next.variants.length === 0) return next;
  const all = isVariant(next, editing) ? intoVariant(whole, editing, next, chatFaceOf) : next;
  const faces = [all, ...all.variants.flatMap(({ face }) => face ?? [])];
  return { ...all, fields: fieldsOfFaces(faces, { before: whole.fields, after: next.fields }) };
}

const isVariant = ({ variants }: Compared<object>, id: string): boolean =>
  variants.some((variant) => variant.id === id && variant.face !== null);

function RoutesOf({ source }: { source: SourceView }) {
  return (
    <section aria-labelledby="routes-of" className="px-5 py-3">
      <h3 id="routes-of" className="text-lg font-semibold">
        Where it goes
      </h3>
      {source.routes.length === 0 ? (
        <p>
          Nowhere yet: what arrives is kept here.{' '}
          <Link className="plain-link" to={`/routes?new=${source.id}`}>
            Wire it to a destination with a route.
          </Link>
        </p>
      ) : (
        <ul>
          {source.routes.map((route) => (
            <li key={route.id}>
              <Link className="plain-link" to={`/routes/${route.id}`}>
                {route.name}
              </Link>{' '}
              <span className="text-muted">{route.state}</span>
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}
