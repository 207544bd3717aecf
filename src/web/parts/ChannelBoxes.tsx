import { CHANNELS, CHANNEL_WORDS, type Channel } from '../../core/consent/index.ts';

interface ChannelBoxesProps {
  /** Those to choose among, in the order of all. */
  offered?: Channel[];
  chosen: Channel[];
  onChange: (chosen: Channel[]) => void;
}

/** A tick box for each channel. */
export function ChannelBoxes({ offered = [...CHANNELS], chosen, onChange }: ChannelBoxesProps) {
  const set = (channel: Channel, isOn: boolean) =>
    onChange(CHANNELS.filter((one) => (one === channel ? isOn : chosen.includes(one))));
  return offered.map((channel) => (
    <label key={channel} className="flex gap-2 items-center">
      <input
        type="checkbox"
        className="checkbox checkbox-sm"
        checked={chosen.includes(channel)}
        onChange={(event) => set(channel, event.target.checked)}
      />
      {CHANNEL_WORDS[channel]}
    </label>
  ));
}
