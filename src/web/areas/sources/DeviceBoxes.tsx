import { DEVICES, type Showing } from '../../../core/showing/index.ts';
import { TickBox } from '../../parts/TickBox.tsx';

interface DeviceBoxesProps {
  legend: string;
  devices: Showing['devices'];
  onChange: (devices: Showing['devices']) => void;
}

/** On which devices something shows itself, or opens by itself. */
export const DeviceBoxes = ({ legend, devices, onChange }: DeviceBoxesProps) => (
  <fieldset className="flex flex-wrap gap-x-4 gap-y-1">
    <legend className="text-muted text-sm">{legend}</legend>
    {DEVICES.map((device) => (
      <TickBox
        key={device}
        label={device}
        checked={devices.includes(device)}
        onChange={(on) => onChange(DEVICES.filter((one) => (one === device ? on : devices.includes(one))))}
      />
    ))}
  </fieldset>
);
