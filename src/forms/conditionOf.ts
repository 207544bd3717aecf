import type { Condition } from '../core/conditions/index.ts';

/** What an element says of when it is shown; the script on the page goes by it. */
export const conditionOf = ({ shownIf }: { shownIf: Condition | null }): { 'data-if'?: string } =>
  shownIf === null ? {} : { 'data-if': JSON.stringify(shownIf) };
