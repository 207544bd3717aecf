import { useId } from 'react';
import { CHANNEL_WORDS } from '../../../core/consent/index.ts';
import type { ConsentAsk, Target } from '../../../core/plan/index.ts';
import { usePurposes } from '../../data/purposes.ts';

interface NeedPartProps {
  needs: Target['needs'];
  asks: ConsentAsk[];
  onChange: (needs: Target['needs']) => void;
}

/** The consent without which nobody goes to a target. */
export function NeedPart({ needs, asks, onChange }: NeedPartProps) {
  const id = useId();
  const purposes = usePurposes();
  const nameOf = (purpose: string) =>
    purposes.data?.find((one) => one.id === purpose)?.name ?? 'a purpose to be chosen';
  const choices = asks.flatMap((ask) =>
    ask.channels.map((channel) => ({
      need: { ask: ask.id, channel },
      text: `consent to ${nameOf(ask.purpose)}, by ${CHANNEL_WORDS[channel]}`,
    })),
  );
  const keyOf = (need: NonNullable<Target['needs']>) => `${need.ask} ${need.channel}`;
  const isGone = needs !== null && !choices.some(({ need }) => keyOf(need) === keyOf(needs));
  return (
    <div className="flex flex-wrap items-center gap-2">
      <label htmlFor={id} className="font-semibold">
        Needs
      </label>
      <select
        id={id}
        className="select select-sm w-auto"
        value={needs ? keyOf(needs) : ''}
        onChange={(event) => onChange(choices.find(({ need }) => keyOf(need) === event.target.value)?.need ?? null)}
      >
        {isGone && <option value={keyOf(needs)}>a consent that is not asked for any more</option>}
        {choices.map(({ need, text }) => (
          <option key={keyOf(need)} value={keyOf(need)}>
            {text}
          </option>
        ))}
        <option value="">no consent: they ask for it by sending the form</option>
      </select>
    </div>
  );
}
