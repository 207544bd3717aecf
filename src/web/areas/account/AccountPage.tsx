import { useState } from 'react';
import type { NewTokenView, TokenView } from '../../../contract/tokens.ts';
import { CopyButton } from '../../parts/CopyButton.tsx';
import { Dialog } from '../../parts/Dialog.tsx';
import { ActionError, Loaded } from '../../parts/States.tsx';
import { Time } from '../../parts/Time.tsx';
import { OpenSessions } from './OpenSessions.tsx';
import { PasswordForm } from './PasswordForm.tsx';
import { TokenForm } from './TokenForm.tsx';
import { useRemoveToken, useTokens } from '../../data/tokens.ts';

/** One's own account: its password, where it is signed in, and what other programs may do. */
export function AccountPage() {
  const tokens = useTokens();
  const [made, setMade] = useState<NewTokenView | null>(null);
  return (
    <div className="h-full overflow-auto p-6" tabIndex={0} role="region" aria-label="Account">
      <div className="max-w-3xl flex flex-col gap-6">
        <h1 className="text-xl font-semibold">Your account</h1>
        <PasswordForm />
        <OpenSessions />
        <div>
          <h2 className="text-lg font-semibold">Access for other programs</h2>
          <p className="text-muted">
            A token lets a program of yours ask Iwashi, and do what its scopes allow.{' '}
            <a className="plain-link" href="/api/openapi.json">
              The description of the API
            </a>{' '}
            says what there is; Prometheus finds its figures at <code className="font-mono">/metrics</code>.
          </p>
        </div>
        {made && (
          <div role="status" className="box p-4 flex flex-col gap-2">
            <p>
              <strong>{made.name}</strong>: copy the token now. It is shown only this once.
            </p>
            <p className="flex flex-wrap gap-2 items-center">
              <code className="font-mono text-sm break-all">{made.token}</code>
              <CopyButton text={made.token} label="Copy" />
            </p>
          </div>
        )}
        <Loaded query={tokens}>
          {(list) =>
            list.length === 0 ? <p className="text-muted">There are no tokens yet.</p> : <TokenTable tokens={list} />
          }
        </Loaded>
        <TokenForm onMade={setMade} />
      </div>
    </div>
  );
}

function TokenTable({ tokens }: { tokens: TokenView[] }) {
  return (
    <table className="rows w-full">
      <thead>
        <tr>
          <th scope="col">For</th>
          <th scope="col">Token</th>
          <th scope="col">May</th>
          <th scope="col">Last used</th>
          <th scope="col">Ends</th>
          <th scope="col">
            <span className="sr-only">Actions</span>
          </th>
        </tr>
      </thead>
      <tbody>
        {tokens.map((token) => (
          <tr key={token.id}>
            <td className="font-semibold">{token.name}</td>
            <td className="font-mono text-sm">{token.hint}</td>
            <td>{token.scopes.join(', ')}</td>
            <td>{token.lastUsedAt ? <Time at={token.lastUsedAt} /> : 'never'}</td>
            <td>{token.expiresAt ? <Time at={token.expiresAt} coming /> : 'never'}</td>
            <td>
              <TakeBack token={token} />
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function TakeBack({ token }: { token: TokenView }) {
  const remove = useRemoveToken();
  const [open, setOpen] = useState(false);
  return (
    <>
      <button className="btn btn-xs" onClick={() => setOpen(true)}>
        Take back
      </button>
      <Dialog title={`Take back ${token.name}?`} open={open} onClose={() => setOpen(false)}>
        <p className="mb-3">Whatever uses it is refused from now on. This cannot be undone.</p>
        <ActionError error={remove.error} />
        <div className="flex gap-2">
          <button className="btn btn-sm btn-error" disabled={remove.isPending} onClick={() => remove.mutate(token.id)}>
            Take it back
          </button>
          <button className="btn btn-sm" onClick={() => setOpen(false)}>
            Keep it
          </button>
        </div>
      </Dialog>
    </>
  );
}
