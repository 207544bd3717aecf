import type { FieldValues } from '../values/index.ts';
import type { Ending, EndingIf } from './endings.ts';
import type { Questions } from './items.ts';
import { pagesOf, THE_END } from './pages.ts';
import { endingFor, walk } from './walking.ts';

interface Wayed extends Questions {
  ending: Ending;
  endings: EndingIf[];
}

/** From one page to the next one, or to an ending. Their ids. */
export interface Way {
  from: string;
  to: string;
}

/** Where a last page leads. @param ending id of a particular ending; '' for the usual one */
export const endOf = (ending: string): string => (ending === '' ? THE_END : `${THE_END}:${ending}`);

/** Whether forms differ in the ways that visitors take through them. */
export const hasWays = (form: Wayed): boolean => form.endings.length > 0 || pagesOf(form).length > 1;

/**
 * The ways that somebody took who answered so, one after the other. By what was kept of it: a page was met where something of it
 * was asked; one without questions, where the answers lead to it.
 */
export function waysTaken(form: Wayed, values: FieldValues, now: number): Way[] {
  const facts = { values, known: {}, now };
  const walked = new Set(walk(form, facts).pages);
  const met = pagesOf(form).flatMap(({ id, items }) => {
    const questions = items.filter(({ kind }) => kind === 'question');
    return (questions.length > 0 ? questions.some((one) => one.id in values) : walked.has(id)) ? [id] : [];
  });
  const stops = [...met, endOf(endingFor(form, facts).id)];
  return stops.slice(1).map((to, at) => ({ from: stops[at] ?? '', to }));
}

const BETWEEN = '>';
/** A way as one text, by which it is counted; and back. */
export const wayName = ({ from, to }: Way): string => `${from}${BETWEEN}${to}`;
export function readWay(name: string): Way {
  const [from = '', to = ''] = name.split(BETWEEN);
  return { from, to };
}
