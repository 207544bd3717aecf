import { transitionsOf } from './transitions.ts';

/**
 * The states of an import. fetching: all that a shop has is read from it into a file. judging: it is looked through. ready: somebody decides. rehearsing: what would become of its rows
 * is found out, and nothing is done. undoing: what it did is taken back, as far as that can be done.
 */
export type ImportState =
  | 'fetching'
  | 'judging'
  | 'unreadable'
  | 'ready'
  | 'rehearsing'
  | 'running'
  | 'paused'
  | 'done'
  | 'cancelled'
  | 'undoing'
  | 'undone';
export type ImportEvent =
  | 'fetched'
  | 'judged'
  | 'found unreadable'
  | 'read in another way'
  | 'rehearsed'
  | 'was rehearsed'
  | 'begun'
  | 'paused'
  | 'resumed'
  | 'cancelled'
  | 'rehearsal ended'
  | 'came to its end'
  | 'taken back'
  | 'was taken back';

export const IMPORTING = transitionsOf<ImportState, ImportEvent>({
  fetched: { from: ['fetching'], to: 'judging' },
  judged: { from: ['judging'], to: 'ready' },
  'found unreadable': { from: ['fetching', 'judging', 'rehearsing', 'running', 'undoing'], to: 'unreadable' },
  'read in another way': { from: ['ready', 'unreadable'], to: 'judging' },
  rehearsed: { from: ['ready'], to: 'rehearsing' },
  'was rehearsed': { from: ['rehearsing'], to: 'ready' },
  begun: { from: ['ready'], to: 'running' },
  paused: { from: ['running'], to: 'paused' },
  resumed: { from: ['paused'], to: 'running' },
  cancelled: { from: ['fetching', 'judging', 'running', 'paused'], to: 'cancelled' },
  'rehearsal ended': { from: ['rehearsing'], to: 'ready' },
  'came to its end': { from: ['running'], to: 'done' },
  'taken back': { from: ['done', 'cancelled'], to: 'undoing' },
  'was taken back': { from: ['undoing'], to: 'undone' },
});
