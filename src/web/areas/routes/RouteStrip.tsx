import { ArrowRight, Plus } from 'lucide-react';
import { Fragment } from 'react';
import type { Finding, RouteDocument } from '../../../core/plan/index.ts';
import { StateMark } from '../../parts/StateMark.tsx';
import { branchBefore } from './routeEdits.ts';
import { partOfTarget, type RoutePart } from './routeParts.ts';

interface RouteStripProps {
  document: RouteDocument;
  sourceNames: string[];
  /** One for each target. */
  names: string[];
  findings: Map<RoutePart, Finding[]>;
  shown: RoutePart;
  onShow: (part: RoutePart) => void;
}

/** The route in the order in which things happen: where it comes from, consent, where it goes, mails. A click shows that part. */
export function RouteStrip({ document, sourceNames, names, findings, shown, onShow }: RouteStripProps) {
  const { consent, targets, mails } = document;
  const confirmed = { iwashi: 'double opt-in', nobody: 'single opt-in', target: 'confirmed there' }[
    consent.confirmedBy.by
  ];
  const piece = (part: RoutePart, kind: string, name: string) => (
    <Piece
      kind={kind}
      name={name}
      findings={findings.get(part) ?? []}
      isShown={part === shown}
      isWhole={part === 'consent' || part === 'mails'}
      onShow={() => onShow(part)}
    />
  );
  return (
    <nav
      aria-label="Parts of the route"
      className="px-3 py-2 border-b border-base-300 flex items-stretch gap-1 max-md:flex-wrap"
    >
      {piece('source', 'From', sourceNames.join(', ') || 'no source yet')}
      <Arrow />
      {piece('consent', 'Consent', consent.asks.length === 0 ? 'none asked for' : confirmed)}
      <Arrow />
      {targets.map((target, index) => {
        const isOtherwise = branchBefore(document, target).length > 0;
        const kind = target.when === null ? 'To' : 'To some';
        return (
          <Fragment key={target.id}>
            {piece(partOfTarget(target.id), isOtherwise ? 'Otherwise' : kind, names[index] ?? 'Target')}
          </Fragment>
        );
      })}
      {targets.length > 0 && targets.every(({ when }) => when !== null) && (
        <span className="self-center text-sm text-muted leading-tight shrink-0">otherwise: stop</span>
      )}
      <button
        className={`btn btn-sm btn-ghost btn-square self-center shrink-0 ${shown === 'add' ? 'bg-base-300' : ''}`}
        aria-pressed={shown === 'add'}
        aria-label="Add a target"
        title="Add a target"
        onClick={() => onShow('add')}
      >
        <Plus size={15} aria-hidden="true" />
      </button>
      <span className="flex-1" />
      {piece('mails', 'Mails', mails.length === 0 ? 'none' : String(mails.length))}
    </nav>
  );
}

const Arrow = () => <ArrowRight size={14} aria-hidden="true" className="self-center text-muted shrink-0" />;

function Piece({
  kind,
  name,
  findings,
  isShown,
  isWhole,
  onShow,
}: {
  kind: string;
  name: string;
  findings: Finding[];
  isShown: boolean;
  /** Whether it is short enough never to be cut. */
  isWhole: boolean;
  onShow: () => void;
}) {
  const worst = findings.find(({ level }) => level === 'blocker') ?? findings.find(({ level }) => level === 'warning');
  return (
    <button
      className={`box px-2 py-0.5 text-left leading-tight max-w-44 hover:bg-base-200 ${isWhole ? 'shrink-0' : 'min-w-0'} ${
        isShown ? 'border-primary bg-base-200' : ''
      }`}
      aria-pressed={isShown}
      aria-label={`${kind} ${name}${worst ? `, ${worst.level}` : ''}`}
      onClick={onShow}
    >
      <span className="flex items-center gap-1 text-sm text-muted whitespace-nowrap">
        {kind}
        {worst && (
          <span className="ml-auto">
            <StateMark of="finding" state={worst.level} iconOnly />
          </span>
        )}
      </span>
      <span className="block truncate font-semibold" title={name}>
        {name}
      </span>
    </button>
  );
}
