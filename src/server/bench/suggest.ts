import { fieldSets, scoreSets, type FieldSet } from './fieldSets/index.ts';

/** Prints how suggestions stand against the right answers; what went wrong only of the sets that may be tuned to. */
export function printSuggest(): void {
  const sets = fieldSets();
  const part = (heldOut: boolean): FieldSet[] => sets.filter((set) => set.heldOut === heldOut);
  for (const [name, own] of [
    ['tuned to', part(false)],
    ['held out', part(true)],
  ] as const) {
    const { precision, recall, offered, lines, wrong, missed } = scoreSets(own);
    console.log(
      `suggest  ${name}: precision ${precision.toFixed(3)} (aim 0.98), recall ${recall.toFixed(3)} (aim 0.85), with offers ${offered.toFixed(3)}; ${own.length} sets, ${lines} lines`,
    );
    if (name === 'tuned to')
      for (const line of [...wrong.map((one) => `wrong: ${one}`), ...missed.map((one) => `not filled in: ${one}`)])
        console.log(`         ${line}`);
  }
}
