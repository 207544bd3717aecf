import { useState } from 'react';
import type { SourceView } from '../../../../contract/source.ts';
import type { PostedDocument } from '../../../../core/intake/index.ts';
import { useEndFormerSecret, useSetSecret } from '../../../data/webhooks.ts';
import { CopyButton } from '../../../parts/CopyButton.tsx';
import { ActionError } from '../../../parts/States.tsx';
import { TickBox } from '../../../parts/TickBox.tsx';
import { ExactTime, Time } from '../../../parts/Time.tsx';

interface AddressPartProps {
  source: SourceView;
  document: PostedDocument;
  secretSince: string | null;
  /** Until when the secret of before is let in beside the present one. */
  formerUntil: string | null;
}

/** The address that another system sends to, and the secret that it needs. */
export function AddressPart({ source, document, secretSince, formerUntil }: AddressPartProps) {
  const isInPath = document.proof.by === 'path';
  return (
    <section aria-labelledby="address">
      <h2 id="address" className="font-semibold text-lg mb-1">
        Send it here
      </h2>
      <p className="break-all font-mono text-sm mb-2">
        {source.postUrl}
        {isInPath && '/…'}
      </p>
      {!isInPath && <CopyButton text={source.postUrl} label="Copy the address" />}
      <p className="mt-2">
        POST with JSON, lines of JSON, XML, form fields, or multipart form data with files.{' '}
        {source.live === null
          ? 'Until this source is published, what comes is kept as an example to map with, and nothing follows on it.'
          : 'It is answered once it is kept. A request that may be sent again takes an Idempotency-Key.'}
      </p>
      {document.proof.by === 'nothing' ? (
        <p className="text-muted mt-2">Anyone who knows this address can send to it. Keep it secret.</p>
      ) : (
        <Secret sourceId={source.id} since={secretSince} formerUntil={formerUntil} isInPath={isInPath} />
      )}
    </section>
  );
}

interface SecretProps {
  sourceId: string;
  since: string | null;
  formerUntil: string | null;
  isInPath: boolean;
}

function Secret({ sourceId, since, formerUntil, isInPath }: SecretProps) {
  const [text, setText] = useState('');
  const [keepsFormer, keepFormer] = useState(true);
  const end = useEndFormerSecret(sourceId);
  const set = useSetSecret(sourceId);
  const told = set.data && (isInPath ? set.data.address : set.data.secret);
  const make = (secret: string) =>
    set.mutate({ secret, keepsFormer: since !== null && keepsFormer }, { onSuccess: () => setText('') });
  return (
    <div className="mt-3 flex flex-col gap-2">
      <h3 className="font-semibold">The secret</h3>
      <p className={since === null ? 'text-error font-semibold' : 'text-muted'}>
        {since === null ? (
          'There is none yet: nobody is let in.'
        ) : (
          <>
            Set <Time at={since} />. {!told && 'It cannot be read here any more.'}
          </>
        )}
      </p>
      {told && (
        <div className="box p-2" role="status">
          <p>{isInPath ? 'The address with the secret. ' : ''}Copy it now: it is shown this once.</p>
          <p className="break-all font-mono text-sm my-1">{told}</p>
          <CopyButton text={told} label={isInPath ? 'Copy the address' : 'Copy the secret'} />
        </div>
      )}
      <div className="flex flex-wrap gap-2">
        <button type="button" className="btn btn-sm" disabled={set.isPending} onClick={() => make('')}>
          {since === null ? 'Make one' : 'Make a new one'}
        </button>
      </div>
      <form
        className="flex flex-wrap gap-2 items-end"
        onSubmit={(event) => {
          event.preventDefault();
          make(text);
        }}
      >
        <label className="flex flex-col min-w-0 grow">
          <span className="text-muted text-sm">Or the one that the other system gave</span>
          <input
            className="input input-sm w-full"
            type="password"
            autoComplete="off"
            value={text}
            onChange={({ target }) => setText(target.value)}
          />
        </label>
        <button className="btn btn-sm" disabled={text === '' || set.isPending}>
          Set it
        </button>
      </form>
      {since !== null && (
        <TickBox label="Accept the old secret for 24 hours" checked={keepsFormer} onChange={keepFormer} />
      )}
      {formerUntil !== null && (
        <p>
          The old secret is accepted until <ExactTime at={formerUntil} />.{' '}
          <button type="button" className="btn btn-sm" disabled={end.isPending} onClick={() => end.mutate()}>
            End that now
          </button>
        </p>
      )}
      <ActionError error={set.error ?? end.error} />
    </div>
  );
}
