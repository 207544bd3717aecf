import { useState } from 'react';
import {
  FEED_RHYTHMS,
  MOST_A_MINUTE,
  type FeedsView,
  type FeedView,
  type ImportEvidence,
} from '../../../../contract/imports.ts';
import type { SourceView } from '../../../../contract/source.ts';
import { ApiProblem } from '../../../data/api.ts';
import { useActOnFeed, useFeed } from '../../../data/imports.ts';
import { CopyButton } from '../../../parts/CopyButton.tsx';
import { Field } from '../../../parts/Field.tsx';
import { ActionError } from '../../../parts/States.tsx';
import { Time } from '../../../parts/Time.tsx';
import { TickBox } from '../../../parts/TickBox.tsx';
import { AGREED, EvidenceFields } from './EvidenceFields.tsx';

const RHYTHMS: Record<(typeof FEED_RHYTHMS)[number], string> = {
  15: 'every quarter of an hour',
  60: 'every hour',
  360: 'every six hours',
  1440: 'every day',
  10080: 'every week',
};
const rhythmOf = (minutes: number): string => RHYTHMS[minutes as keyof typeof RHYTHMS];

/** How files come to a source by themselves, if they do. */
export function FeedPanel({ source }: { source: SourceView }) {
  const { data } = useFeed(source.id);
  const [isOpen, setOpen] = useState(false);
  const act = useActOnFeed(source.id);
  if (!data) return null;
  return (
    <section aria-labelledby="feed">
      <h2 id="feed" className="font-semibold text-lg mb-1">
        Files that come by themselves
      </h2>
      {data.feed ? (
        <Standing source={source} feed={data.feed} folder={data.folder} />
      ) : (
        <p className="text-muted">
          None yet: they can come from an address that is asked at set times, or from a folder.
        </p>
      )}
      <div className="flex flex-wrap gap-2 mt-2">
        {data.feed && (
          <button
            type="button"
            className="btn btn-sm"
            disabled={act.isPending || source.state !== 'live'}
            onClick={() => act.mutate({ act: 'look' })}
          >
            Look now
          </button>
        )}
        {data.feed?.by === 'folder' && <CopyButton text={data.folder} label="Copy the folder" />}
        <button type="button" className="btn btn-sm" aria-expanded={isOpen} onClick={() => setOpen(!isOpen)}>
          {data.feed ? 'Change it' : 'Set it up'}
        </button>
        {data.feed && (
          <button
            type="button"
            className="btn btn-sm btn-ghost"
            disabled={act.isPending}
            onClick={() => act.mutate({ act: 'end' }, { onSuccess: () => setOpen(false) })}
          >
            End it
          </button>
        )}
      </div>
      <ActionError error={act.error} />
      {isOpen && <FeedForm source={source} feeds={data} onDone={() => setOpen(false)} />}
    </section>
  );
}

function Standing({ source, feed, folder }: { source: SourceView; feed: FeedView; folder: string }) {
  return (
    <>
      <p>
        {feed.by === 'address' ? (
          <>
            <span className="break-all font-semibold">{feed.address}</span> is asked {rhythmOf(feed.everyMinutes)}.
          </>
        ) : (
          <>
            What is put into <span className="break-all font-semibold">{folder}</span> is brought here, and taken out of
            there.
          </>
        )}{' '}
        {feed.takes ? 'Its rows are taken at once.' : 'Its rows wait until somebody takes them.'}
      </p>
      {source.state !== 'live' && (
        <p className="text-warning">Publish the source first: nothing comes by itself before that.</p>
      )}
      {feed.problem !== '' && <p className="text-error font-semibold">{feed.problem}</p>}
      <p className="text-muted text-sm">
        {feed.askedAt === null ? (
          'Not looked at yet.'
        ) : (
          <>
            Looked at <Time at={feed.askedAt} />.{' '}
            {feed.broughtAt === null ? (
              'It brought no file yet.'
            ) : (
              <>
                The last new file came <Time at={feed.broughtAt} />.
              </>
            )}
          </>
        )}
      </p>
    </>
  );
}

const FRESH: FeedView = {
  by: 'address',
  address: '',
  everyMinutes: 1440,
  takes: false,
  evidence: { agreed: 'no', words: '', where: '', when: '' },
  perMinute: 1_000,
  askedAt: null,
  broughtAt: null,
  problem: '',
  nextAt: '',
};

function FeedForm({ source, feeds, onDone }: { source: SourceView; feeds: FeedsView; onDone: () => void }) {
  const act = useActOnFeed(source.id);
  const [own, setOwn] = useState<FeedView>(feeds.feed ?? FRESH);
  const [address, setAddress] = useState('');
  const set = (part: Partial<FeedView>) => setOwn({ ...own, ...part });
  const about = (pointer: string) => (act.error instanceof ApiProblem ? act.error.about(pointer) : undefined);
  const isBeside = act.error instanceof ApiProblem && act.error.issues.length > 0;
  return (
    <form
      className="box p-3 mt-2 flex flex-col gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        const { by, everyMinutes, takes, perMinute, evidence } = own;
        const { agreed, words, where } = evidence;
        const input = { by, address, everyMinutes, takes, perMinute, agreed, words, where };
        act.mutate({ act: 'set', input }, { onSuccess: onDone });
      }}
    >
      <Field label="From">
        <select
          className="select w-full"
          value={own.by}
          onChange={({ target }) => set({ by: target.value as FeedView['by'] })}
        >
          <option value="address">an address that is asked at set times</option>
          <option value="folder">a folder on the machine that Iwashi runs on</option>
        </select>
      </Field>
      {own.by === 'address' ? (
        <>
          <Field
            label="Address"
            help={
              own.address === ''
                ? 'A name and a password may stand in it, as in https://name:password@… It is kept encrypted.'
                : `Empty to leave it as it is: ${own.address}`
            }
            error={about('/address')}
          >
            <input
              className="input w-full"
              inputMode="url"
              autoComplete="off"
              value={address}
              onChange={({ target }) => setAddress(target.value)}
            />
          </Field>
          <Field label="How often">
            <select
              className="select w-full"
              value={own.everyMinutes}
              onChange={({ target }) => set({ everyMinutes: Number(target.value) })}
            >
              {FEED_RHYTHMS.map((minutes) => (
                <option key={minutes} value={minutes}>
                  {RHYTHMS[minutes]}
                </option>
              ))}
            </select>
          </Field>
        </>
      ) : (
        <p className="text-muted break-all">{feeds.folder}</p>
      )}
      <EvidenceFields
        evidence={own.evidence}
        words={AGREED}
        asks="all but when"
        set={(part: Partial<ImportEvidence>) => set({ evidence: { ...own.evidence, ...part } })}
        about={about}
      />
      <TickBox label="take its rows at once" checked={own.takes} onChange={(takes) => set({ takes })} />
      <p className="text-muted text-sm">
        Rows that were the same in the file of before are not taken again. Where a column is missing that a field reads,
        nothing is taken until somebody looks.
      </p>
      <Field label="Rows a minute" error={about('/perMinute')}>
        <input
          className="input w-32"
          type="number"
          min={1}
          max={MOST_A_MINUTE}
          value={own.perMinute}
          onChange={({ target }) => set({ perMinute: Number(target.value) })}
        />
      </Field>
      <div className="flex gap-2">
        <button className="btn btn-sm btn-primary" disabled={act.isPending}>
          Save
        </button>
        <button type="button" className="btn btn-sm" onClick={onDone}>
          Cancel
        </button>
      </div>
      {!isBeside && <ActionError error={act.error} />}
    </form>
  );
}
