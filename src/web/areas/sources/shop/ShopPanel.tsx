import { CircleAlert, CircleCheck, Download } from 'lucide-react';
import { Link } from 'react-router';
import type { ShopFinding, ShopFix, ShopView } from '../../../../contract/shops.ts';
import type { SourceView } from '../../../../contract/source.ts';
import { shopAsPosts, type ShopDocument } from '../../../../core/intake/index.ts';
import { useImports } from '../../../data/imports.ts';
import { useActOnShop, useShop, useShopFindings } from '../../../data/shops.ts';
import { ActionError, Loaded } from '../../../parts/States.tsx';
import { Time } from '../../../parts/Time.tsx';
import { Imports } from '../files/FilePanel.tsx';
import { Arrivals } from '../webhook/Arrivals.tsx';

/** How a shop stands, its customers of before, and what came of it. */
export function ShopPanel({ source, document }: { source: SourceView; document: ShopDocument }) {
  const shop = useShop(source.id);
  return (
    <div className="p-4 flex flex-col gap-6">
      <Loaded query={shop}>
        {(view) => (
          <>
            <Signal source={source} shop={view} />
            {view.canFetchCustomers && <Customers source={source} />}
          </>
        )}
      </Loaded>
      <Arrivals sourceId={source.id} document={shopAsPosts(document)} />
    </div>
  );
}

/** Whether it is alive: when something last came, how much is usual, and what the shop says when it is asked. */
function Signal({ source, shop }: { source: SourceView; shop: ShopView }) {
  const act = useActOnShop(source.id);
  const findings = useShopFindings(source.id, `${source.draftAt} ${source.state} ${act.submittedAt}`);
  return (
    <section aria-labelledby="signal" className="flex flex-col gap-2">
      <h2 id="signal" className="font-semibold text-lg">
        Shop
      </h2>
      {shop.silentSince !== null && (
        <p className="text-warning font-semibold" role="status">
          Nothing since <Time at={shop.silentSince} />, which is unusual.
        </p>
      )}
      <dl className="grid grid-cols-[auto_1fr] gap-x-3">
        <dt className="text-muted">Connection</dt>
        <dd>
          {shop.connection ? (
            <Link className="plain-link" to={`/connections/${shop.connection.id}`}>
              {shop.connection.name}
            </Link>
          ) : (
            'removed'
          )}
        </dd>
        <dt className="text-muted">Last of it</dt>
        <dd>{shop.lastAt ? <Time at={shop.lastAt} /> : 'nothing yet'}</dd>
        <dt className="text-muted">In 24 hours</dt>
        <dd>
          {shop.today}
          {shop.usualADay !== null && <span className="text-muted">, usually {shop.usualADay} a day</span>}
        </dd>
        <dt className="text-muted">In this hour</dt>
        <dd>
          {shop.thisHour} so far
          {shop.usualThisHour !== null && (
            <span className="text-muted">
              , usually {shop.usualThisHour < 0.1 ? 'hardly any' : shop.usualThisHour} at this time of the day
            </span>
          )}
        </dd>
        <dt className="text-muted">It told us</dt>
        <dd>{shop.heardAt ? <Time at={shop.heardAt} /> : 'nothing yet'}</dd>
        {shop.askedEverySeconds > 0 && (
          <>
            <dt className="text-muted">We asked it</dt>
            <dd>
              {shop.askedAt ? (
                <Time at={shop.askedAt} />
              ) : source.state === 'live' ? (
                'not yet'
              ) : (
                'not while it is not live'
              )}
              {shop.problem !== '' && <span className="block text-error">{shop.problem}</span>}
              {shop.missed > 0 && shop.missedAt !== null && (
                <span className="block text-warning">
                  {shop.missed} were found only by asking, the last <Time at={shop.missedAt} />.
                </span>
              )}
            </dd>
          </>
        )}
      </dl>
      <Loaded query={findings}>
        {(all) => (
          <ul className="flex flex-col gap-1">
            {all.map((finding) => (
              <Finding
                key={finding.found}
                finding={finding}
                connectionId={shop.connection?.id ?? ''}
                busy={act.isPending}
                onFix={(fix) => act.mutate(fix)}
              />
            ))}
          </ul>
        )}
      </Loaded>
      {shop.askedEverySeconds > 0 && source.state === 'live' && (
        <button
          type="button"
          className="btn btn-sm self-start"
          disabled={act.isPending}
          onClick={() => act.mutate('ask')}
        >
          Ask it now for what it did not tell
        </button>
      )}
      <ActionError error={act.error} />
    </section>
  );
}

const FIXES: Record<Exclude<ShopFix, 'open the connection'>, { act: 'listen' | 'check-out'; label: string }> = {
  listen: { act: 'listen', label: 'Register our address there' },
  'read the check-out': { act: 'check-out', label: 'Take over its words' },
};

interface FindingProps {
  finding: ShopFinding;
  connectionId: string;
  busy: boolean;
  onFix: (act: 'listen' | 'check-out') => void;
}

function Finding({ finding: { ok, found, fix }, connectionId, busy, onFix }: FindingProps) {
  return (
    <li className="flex gap-2 items-start">
      {ok ? (
        <CircleCheck size={16} className="text-success shrink-0 mt-1" aria-label="In order:" />
      ) : (
        <CircleAlert size={16} className="text-warning shrink-0 mt-1" aria-label="Wrong:" />
      )}
      <span>
        {found}{' '}
        {fix === 'open the connection' && connectionId !== '' && (
          <Link className="plain-link" to={`/connections/${connectionId}`}>
            Open the connection
          </Link>
        )}
        {fix !== null && fix !== 'open the connection' && (
          <button type="button" className="btn btn-xs" disabled={busy} onClick={() => onFix(FIXES[fix].act)}>
            {FIXES[fix].label}
          </button>
        )}
      </span>
    </li>
  );
}

/** The customers that it had before it was a source. */
function Customers({ source }: { source: SourceView }) {
  const imports = useImports(source.id);
  const act = useActOnShop(source.id);
  return (
    <section aria-labelledby="customers" className="flex flex-col gap-2">
      <h2 id="customers" className="font-semibold text-lg">
        Customers of before
      </h2>
      <p className="text-muted">
        All that it has are fetched and looked through. Nothing is taken or sent until you say so; nobody is mailed.
      </p>
      <button
        type="button"
        className="btn btn-sm self-start"
        disabled={act.isPending || (imports.data?.some(({ state }) => state === 'fetching') ?? false)}
        onClick={() => act.mutate('customers')}
      >
        <Download size={14} aria-hidden="true" /> Fetch all customers
      </button>
      <ActionError error={act.error} />
      <Imports source={source} />
    </section>
  );
}
