import { Command } from 'cmdk';
import { useNavigate } from 'react-router';
import { useConnectionLines } from '../data/connections.ts';
import { usePeopleLike } from '../data/people.ts';
import { usePurposes } from '../data/purposes.ts';
import { useRouteLines } from '../data/routes.ts';
import { useSourceLines } from '../data/sources.ts';
import { useState } from 'react';
import { AREAS } from './areas.ts';

/** Goes anywhere by name: areas, connections, sources, routes, purposes, people. */
export function CommandPalette({ onClose }: { onClose: () => void }) {
  const navigate = useNavigate();
  const [text, setText] = useState('');
  const connections = useConnectionLines();
  const sources = useSourceLines();
  const routes = useRouteLines();
  const purposes = usePurposes();
  const people = usePeopleLike(text);
  const go = (to: string) => {
    onClose();
    void navigate(to);
  };
  const item = (to: string, label: string, kind: string) => (
    <Command.Item
      key={to}
      value={`${kind} ${label} ${to}`}
      onSelect={() => go(to)}
      className="flex justify-between px-3 py-2 rounded cursor-pointer data-[selected=true]:bg-base-200"
    >
      <span>{label}</span>
      <span className="text-muted text-sm">{kind}</span>
    </Command.Item>
  );
  return (
    <Command.Dialog
      open
      onOpenChange={(open) => !open && onClose()}
      label="Go to"
      className="fixed inset-0 z-40 flex items-start justify-center pt-[12vh]"
      overlayClassName="fixed inset-0 bg-black/40 z-30"
    >
      <div className="box w-full max-w-xl mx-4">
        <Command.Input
          value={text}
          onValueChange={setText}
          placeholder="A view, a connection, a source, a route, a person"
          className="w-full px-4 py-3 bg-transparent border-b border-base-300 outline-none"
        />
        <Command.List className="max-h-80 overflow-auto p-2">
          <Command.Empty className="p-3 text-muted">Nothing has this name.</Command.Empty>
          {AREAS.map(({ to, label }) => item(to, label, 'area'))}
          {item('/account', 'Access for other programs', 'account')}
          {item('/connections/new', 'Add a connection', 'action')}
          {item('/activity/deliveries?state=held', 'Held deliveries', 'area')}
          {connections.data?.map(({ id, name }) => item(`/connections/${id}`, name, 'connection'))}
          {sources.data?.map(({ id, name }) => item(`/sources/${id}`, name, 'source'))}
          {routes.data?.map(({ id, name }) => item(`/routes/${id}`, name, 'route'))}
          {item('/consent/who', 'Who asks', 'consent')}
          {purposes.data?.map(({ id, name }) => item(`/consent/${id}`, name, 'purpose'))}
          {people.data?.rows
            .slice(0, 8)
            .map(({ id, email, name }) => item(`/people/${id}`, `${name} ${email}`, 'person'))}
        </Command.List>
      </div>
    </Command.Dialog>
  );
}
