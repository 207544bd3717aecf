import {
  lineId,
  plainLine,
  type LineOrigin,
  type MapLine,
  type StepOptions,
  type ToldStep,
} from '../../../../core/mapping/index.ts';
import { newPartId } from '../../../parts/newPartId.ts';

/** What a field of the source is called while it is dragged onto a line. By keys, its name is typed into the line. */
export const FIELD_DRAG = 'application/x-iwashi-field';

/** Where a line is, as it stands in the URL while it is open. */
export const placeOfLine = (targetId: string, key: string): string => `${targetId} ${key}`;

/** Changes one line, if there is one. */
export const changeLine = (lines: MapLine[], key: string, part: Partial<MapLine>): MapLine[] =>
  lines.map((line) => (line.to === key ? { ...line, ...part } : line));

/** Chooses where a destination field's value comes from; null takes the line away. Steps stay with what they were made for. */
export function setOrigin(lines: MapLine[], key: string, from: LineOrigin | null): MapLine[] {
  if (from === null) return lines.filter(({ to }) => to !== key);
  const before = lines.find(({ to }) => to === key);
  if (!before) return [...lines, plainLine({ id: lineId(key), to: key, from })];
  return changeLine(lines, key, { from, steps: takesSteps(from) ? before.steps : [] });
}

/** Whether something can be done on the way to what comes from there: a fixed value is entered as it is wanted. */
export const takesSteps = ({ kind }: LineOrigin): boolean => kind !== 'fixed';

/** Adds a line for a field of the operator's own naming; nothing changes when there is one. */
export function addFreeLine(lines: MapLine[], key: string): MapLine[] {
  const name = key.trim();
  return name === '' || lines.some(({ to }) => to === name)
    ? lines
    : setOrigin(lines, name, { kind: 'text', text: '' });
}

const withSteps = (lines: MapLine[], key: string, change: (steps: MapLine['steps']) => MapLine['steps']): MapLine[] =>
  lines.map((line) => (line.to === key ? { ...line, steps: change(line.steps) } : line));

export const addStep = (lines: MapLine[], key: string, { kind, options }: ToldStep): MapLine[] =>
  withSteps(lines, key, (steps) => [...steps, { id: newPartId(), kind, options }]);

export const removeStep = (lines: MapLine[], key: string, id: string): MapLine[] =>
  withSteps(lines, key, (steps) => steps.filter((step) => step.id !== id));

/** Tells a step something; the rest of what it was told stays. */
export const tellStep = (lines: MapLine[], key: string, id: string, told: StepOptions): MapLine[] =>
  withSteps(lines, key, (steps) =>
    steps.map((step) => (step.id === id ? { ...step, options: { ...step.options, ...told } } : step)),
  );

/** Moves a step among its neighbours; at either end it stays. @param by -1 for earlier, 1 for later */
export const moveStep = (lines: MapLine[], key: string, id: string, by: -1 | 1): MapLine[] =>
  withSteps(lines, key, (steps) => {
    const at = steps.findIndex((step) => step.id === id);
    const other = steps[at + by];
    const own = steps[at];
    if (!own || !other) return steps;
    return steps.map((step) => (step === own ? other : step === other ? own : step));
  });
