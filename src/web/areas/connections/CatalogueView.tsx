import { TriangleAlert } from 'lucide-react';
import type { ConnectionView } from '../../../contract/connection.ts';
import type { DestinationField } from '../../../core/mapping/index.ts';
import type { Catalogue } from '../../../core/plan/index.ts';
import { Time } from '../../parts/Time.tsx';
import { capital } from '../../parts/words.ts';
import { MakeButton } from './MakeForm.tsx';
import { RouteLinks } from './RouteLinks.tsx';

const NOTHING_KNOWN = {
  ungranted: 'Nothing is known of this account yet: it says what it offers once access is granted.',
  granted: 'Nothing is known of this account yet: it says what it offers once it is verified.',
};

/** What the connected account offers: lists with their groups, tags, fields with their types, and what changed there. */
export function CatalogueView({ connection }: { connection: ConnectionView }) {
  const { catalogue, catalogueAt, serviceName } = connection;
  if (!catalogue)
    return (
      <p className="p-4 text-muted">{NOTHING_KNOWN[connection.state === 'ungranted' ? 'ungranted' : 'granted']}</p>
    );
  const { can, lists, tags, kinds, fields } = catalogue;
  return (
    <div className="p-4 flex flex-col gap-5">
      <div>
        <h2 className="font-semibold text-lg">In {serviceName}</h2>
        {catalogueAt && (
          <p className="text-muted text-sm">
            As it was offered <Time at={catalogueAt} />. It is fetched anew when you verify, while somebody maps to it,
            when a delivery is refused for what changed, and every six hours.
          </p>
        )}
      </div>
      <Changes connection={connection} />
      {can.lists && (
        <section>
          <Heading title={`${capital(can.calls.list)}s${can.groups ? ' and groups' : ''}`}>
            <MakeButton connection={connection} what="list" />
          </Heading>
          <ul className="flex flex-col gap-1">
            {lists.map((list) => (
              <li key={list.id}>
                <span className="flex items-baseline justify-between gap-2">
                  {list.name}
                  <MakeButton connection={connection} what="group" list={list.id} />
                </span>
                {list.groups.length > 0 && (
                  <span className="block text-muted">{list.groups.map(({ name }) => name).join(' · ')}</span>
                )}
              </li>
            ))}
          </ul>
        </section>
      )}
      {can.tags && (
        <section>
          <Heading title="Tags">
            <MakeButton connection={connection} what="tag" />
          </Heading>
          <p>{tags.map(({ name }) => name).join(' · ') || 'none'}</p>
        </section>
      )}
      {kinds.map((kind) => (
        <section key={kind.id}>
          <Heading title={kind.name}>
            <MakeButton connection={connection} what="field" kind={kind.id} />
          </Heading>
          <FieldTable fields={kind.fields} />
        </section>
      ))}
      {!can.kinds && (
        <section>
          <Heading title="Fields">
            <MakeButton connection={connection} what="field" />
          </Heading>
          {can.freeFields ? (
            <p className="text-muted">It takes fields of any name. You name them on the route.</p>
          ) : (
            <FieldTable fields={fields} />
          )}
        </section>
      )}
      <Cannot can={can} />
    </div>
  );
}

function Heading({ title, children }: { title: string; children: React.ReactNode }) {
  return (
    <div className="flex items-center justify-between gap-2 mb-1">
      <h3 className="font-semibold">{title}</h3>
      {children}
    </div>
  );
}

function FieldTable({ fields }: { fields: DestinationField[] }) {
  return (
    <table className="rows w-full">
      <tbody>
        {fields.map((field) => (
          <tr key={field.key}>
            <td className="pl-0!">{field.label}</td>
            <td className="text-muted">
              {field.type}
              {field.maxLength !== null && `, up to ${field.maxLength}`}
              {field.choices.length > 0 && `: ${field.choices.join(', ')}`}
            </td>
            <td className="font-semibold">{field.required ? 'required' : ''}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** What differed when it was last fetched, with the routes that it touches. */
function Changes({ connection: { changes, changesAt } }: { connection: ConnectionView }) {
  if (changes.length === 0 || !changesAt) return null;
  return (
    <section className="box p-3">
      <h3 className="font-semibold">
        What changed there, noticed <Time at={changesAt} />
      </h3>
      <ul className="mt-1 flex flex-col gap-1">
        {changes.map(({ text, level, routes, what, id }) => (
          <li key={what + id + text} className={level === 'warning' ? 'text-warning' : ''}>
            {level === 'warning' && <TriangleAlert size={14} aria-hidden="true" className="inline mr-1" />}
            {text}
            {routes.length > 0 && (
              <>
                {' '}
                Touches <RouteLinks routes={routes} />.
              </>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}

function Cannot({ can }: { can: Catalogue['can'] }) {
  const missing = [
    ...(can.lists ? [] : ['lists']),
    ...(can.tags ? [] : ['tags']),
    ...(can.duplicates.includes('update') ? [] : ['updating existing records: every delivery adds a new one']),
    ...(can.readBack ? [] : ['being asked afterwards what arrived']),
  ];
  return missing.length === 0 ? null : (
    <p className="text-muted text-sm">This kind of service does not know: {missing.join('; ')}.</p>
  );
}
