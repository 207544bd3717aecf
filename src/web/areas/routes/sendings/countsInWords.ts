import { figure } from '../../../parts/figures.ts';
import type { SendingCounts } from '../../../../contract/sendings.ts';

/** How many of each, in words; those of which there are none are left out. */
export function countsInWords({ sent, held, asked, waiting, leftOut, notChosen }: SendingCounts): string {
  const counts: [count: number, words: string][] = [
    [sent, 'sent'],
    [held, 'held'],
    [asked, 'asked to confirm'],
    [waiting, 'asked before, and waited for'],
    [leftOut, 'not sent: sent before, not for them, or asked before'],
    [notChosen, 'not among those chosen'],
  ];
  const said = counts.filter(([count]) => count > 0).map(([count, words]) => `${figure(count)} ${words}`);
  return said.join(', ') || 'nothing yet';
}
