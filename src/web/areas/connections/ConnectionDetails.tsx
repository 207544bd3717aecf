import { KeyRound, Pause, Play, RefreshCw, Trash2 } from 'lucide-react';
import { Fragment, useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { GRANT_NOTICES, type ConnectionView, type GrantNotice } from '../../../contract/connection.ts';
import { CAUSES } from '../../../core/delivery/index.ts';
import { Dialog } from '../../parts/Dialog.tsx';
import { DotLine } from '../../parts/DotLine.tsx';
import { ActionError } from '../../parts/States.tsx';
import { StateMark } from '../../parts/StateMark.tsx';
import { Time } from '../../parts/Time.tsx';
import { useTellOpen } from '../../shell/openObject.ts';
import { ChangeForm } from './ChangeForm.tsx';
import { Notices } from './Notices.tsx';
import { RemoveForm } from './RemoveForm.tsx';
import { RouteLinks } from './RouteLinks.tsx';
import { connectionStanding, lookedAtWord } from '../../parts/connectionStanding.ts';
import { useConnectionAct, useGrant } from '../../data/connections.ts';
import { VerifyReport } from './VerifyReport.tsx';

const NOTICE_WORDS: Record<GrantNotice, string> = {
  refused: 'Access was not granted anew: it goes on with the access that it has.',
  used: 'The answer about access was used before, is too old, or was not asked for by you. Grant access again.',
};

export function ConnectionDetails({ connection }: { connection: ConnectionView }) {
  const { id, name, verify, state, answerUntrueAt, serviceName, returnUrl, sameAs } = connection;
  const act = useConnectionAct(id);
  const grant = useGrant();
  const [params] = useSearchParams();
  const [dialog, setDialog] = useState<'change' | 'remove' | null>(null);
  const close = () => setDialog(null);
  const notice = act.isSuccess ? null : (GRANT_NOTICES.find((one) => one === params.get('grant')) ?? null);
  useTellOpen(name, connectionStanding(connection), lookedAtWord(verify), verify?.at ?? null);
  return (
    <div className="p-5 flex flex-col gap-6 max-w-3xl">
      <div className="flex flex-wrap items-center justify-between gap-2">
        <div>
          <h2 className="text-xl font-semibold">{name}</h2>
          <p className="text-muted flex gap-2">
            {serviceName} <StateMark of="connection" state={connectionStanding(connection)} />
          </p>
        </div>
        <div className="flex flex-wrap gap-2">
          {returnUrl !== '' && (
            <button
              className={`btn btn-sm ${state === 'active' ? '' : 'btn-primary'}`}
              onClick={() => grant.mutate(id)}
              disabled={grant.isPending}
            >
              <KeyRound size={15} aria-hidden="true" />{' '}
              {state === 'ungranted' ? `Grant access in ${serviceName}` : 'Grant access again'}
            </button>
          )}
          {state !== 'ungranted' && (
            <button
              className={`btn btn-sm ${returnUrl === '' || state === 'active' ? 'btn-primary' : ''}`}
              onClick={() => act.mutate('verify')}
              disabled={act.isPending}
            >
              <RefreshCw size={15} aria-hidden="true" />{' '}
              {act.isPending && act.variables === 'verify' ? 'Verifying' : 'Verify'}
            </button>
          )}
          <button className="btn btn-sm" onClick={() => setDialog('change')}>
            Change
          </button>
          {state === 'paused' ? (
            <button className="btn btn-sm" onClick={() => act.mutate('resume')} disabled={act.isPending}>
              <Play size={15} aria-hidden="true" /> Go on
            </button>
          ) : (
            state !== 'ungranted' && (
              <button className="btn btn-sm" onClick={() => act.mutate('pause')} disabled={act.isPending}>
                <Pause size={15} aria-hidden="true" /> Pause
              </button>
            )
          )}
          <button
            className="btn btn-sm btn-ghost"
            onClick={() => setDialog('remove')}
            aria-label="Remove this connection"
          >
            <Trash2 size={15} aria-hidden="true" />
          </button>
        </div>
      </div>

      {notice && (
        <p role="alert" className="box p-4 text-error font-semibold">
          {NOTICE_WORDS[notice]}
        </p>
      )}
      {sameAs.length > 0 && (
        <p className="box p-4">
          Also connected to this account:{' '}
          {sameAs.map((other, at) => (
            <Fragment key={other.id}>
              {at > 0 && ', '}
              <Link to={`/connections/${other.id}`} className="plain-link">
                {other.name}
              </Link>
            </Fragment>
          ))}
          . What routes send by both arrives there twice; remove one of them where that is not meant.
        </p>
      )}
      {answerUntrueAt && (
        <p className="box p-4">
          Its answers are not relied on: on one delivery it answered something else than it held, noticed{' '}
          <Time at={answerUntrueAt} />. Since then each delivery is looked at. Verify it to rely on its answers again.
        </p>
      )}
      {state === 'paused' && (
        <p className="box p-4">Paused: what comes for it waits here, in order, and goes out when you let it go on.</p>
      )}
      {state === 'ungranted' && !verify && (
        <p className="box p-4">Saved. One step is left: grant access in {serviceName}.</p>
      )}
      {verify && (
        <div className="box p-4">
          <VerifyReport result={verify} calls={connection.catalogue?.can.calls} />
        </div>
      )}
      <ActionError error={act.error ?? grant.error} />
      <Facts connection={connection} />
      {state !== 'ungranted' && <Notices connection={connection} />}

      <Dialog title={`Change ${name}`} open={dialog === 'change'} onClose={close}>
        <ChangeForm connection={connection} onDone={close} />
      </Dialog>
      <Dialog title={`Remove ${name}?`} open={dialog === 'remove'} onClose={close}>
        <RemoveForm connection={connection} onDone={close} />
      </Dialog>
    </div>
  );
}

function Facts({ connection }: { connection: ConnectionView }) {
  const { id, baseUrl, baseUrlLabel, hints, credentials, tokenUntil, hours, lastSuccessAt, lastFailure } = connection;
  const { profile: serviceId, restsUntil, limits, waiting, held, usedBy } = connection;
  return (
    <dl className="grid grid-cols-[10rem_1fr] gap-y-2">
      <dt className="text-muted">{baseUrlLabel}</dt>
      <dd className="font-mono text-sm break-all">
        {baseUrl}
        {serviceId === 'csv-file' && (
          <a className="plain-link ml-3" href={`/api/connections/${id}/file`}>
            Download
          </a>
        )}
      </dd>
      {credentials
        .filter(({ name }) => hints[name] !== undefined)
        .map(({ name, label }) => (
          <Fact key={name} term={label}>
            <span className="font-mono text-sm">{hints[name]}</span>
          </Fact>
        ))}
      {tokenUntil && (
        <Fact term="Access">
          good until <Time at={tokenUntil} coming />, renewed by itself
        </Fact>
      )}
      <Fact term="Last 24 hours">
        <DotLine hours={hours} what="delivered" />
      </Fact>
      <Fact term="Last success">{lastSuccessAt ? <Time at={lastSuccessAt} /> : 'none yet'}</Fact>
      {lastFailure && (
        <Fact term="Last failure">
          <Time at={lastFailure.at} />: {CAUSES[lastFailure.cause].sentence}{' '}
          <span className="text-muted">{lastFailure.said}</span>
        </Fact>
      )}
      {restsUntil && (
        <Fact term="Left alone">
          until <Time at={restsUntil} coming />, since it failed too often or asked for it
        </Fact>
      )}
      <Fact term="Pace">
        {limits.atOnce} at a time
        {limits.perSecond !== null && `, ${limits.perSecond} requests a second`}
        {limits.burst !== null && `, up to ${limits.burst} at once after a rest`}
        {limits.used !== null && `; ${limits.used} taken at the moment`}
      </Fact>
      <Fact term="On the way">{waiting}</Fact>
      <Fact term="Held">
        {held > 0 ? (
          <Link to={`/activity/deliveries?state=held&connection=${id}`} className="plain-link text-error">
            {held} held
          </Link>
        ) : (
          'none'
        )}
      </Fact>
      <Fact term="Used by">{usedBy.length === 0 ? 'no route yet' : <RouteLinks routes={usedBy} />}</Fact>
    </dl>
  );
}

function Fact({ term, children }: { term: string; children: React.ReactNode }) {
  return (
    <>
      <dt className="text-muted">{term}</dt>
      <dd>{children}</dd>
    </>
  );
}
