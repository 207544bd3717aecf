import type { ConnectionView } from '../../../contract/connection.ts';
import { Time } from '../../parts/Time.tsx';

/** What the connected account offers: lists with their groups, tags, fields with their types. */
export function CatalogueView({ connection: { catalogue, catalogueAt, serviceName } }: { connection: ConnectionView }) {
  if (!catalogue) return <p className="p-4 text-quiet">Nothing is known of this account yet. Verify the connection.</p>;
  return (
    <div className="p-4 flex flex-col gap-5">
      <div>
        <h2 className="font-semibold text-lg">In {serviceName}</h2>
        {catalogueAt && (
          <p className="text-quiet text-sm">
            As fetched <Time at={catalogueAt} />
          </p>
        )}
      </div>
      <section>
        <h3 className="font-semibold mb-1">Lists and groups</h3>
        <ul className="flex flex-col gap-1">
          {catalogue.lists.map((list) => (
            <li key={list.id}>
              {list.name}
              {list.groups.length > 0 && (
                <span className="text-quiet"> · {list.groups.map(({ name }) => name).join(', ')}</span>
              )}
            </li>
          ))}
        </ul>
      </section>
      <section>
        <h3 className="font-semibold mb-1">Tags</h3>
        <p>{catalogue.tags.map(({ name }) => name).join(', ') || 'none'}</p>
      </section>
      <section>
        <h3 className="font-semibold mb-1">Fields</h3>
        <table className="rows w-full">
          <tbody>
            {catalogue.fields.map((field) => (
              <tr key={field.key}>
                <td className="pl-0!">{field.label}</td>
                <td className="text-quiet">
                  {field.type}
                  {field.maxLength !== null && `, up to ${field.maxLength}`}
                  {field.choices.length > 0 && `: ${field.choices.join(', ')}`}
                </td>
                <td className="font-semibold">{field.required ? 'required' : ''}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </section>
    </div>
  );
}
