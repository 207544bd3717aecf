import fc from 'fast-check';
import { expect, it } from 'vitest';
import { begun, changed, redone, undone } from './history.ts';

interface Page {
  name: string;
  parts: { id: string; text: string; on: boolean }[];
}
const start: Page = { name: '', parts: [{ id: 'a', text: '', on: false }] };
const named = (page: Page, name: string): Page => ({ ...page, name });
const worded = (page: Page, text: string): Page => ({ ...page, parts: page.parts.map((part) => ({ ...part, text })) });

it('takes what was typed in one place for one change, until it rests or something else is done', () => {
  let history = begun(start);
  for (const [index, text] of ['M', 'Mo', 'Moo', 'Moon'].entries())
    history = changed(history, worded(history.document, text), index * 100);
  history = changed(history, named(history.document, 'Sky'), 500);
  history = changed(history, named(history.document, 'Sky letter'), 5000);
  expect(history.past.map(({ name, parts }) => [name, parts[0]?.text])).toEqual([
    ['', ''],
    ['', 'Moon'],
    ['Sky', 'Moon'],
  ]);
  const ticked = { ...history.document, parts: history.document.parts.map((part) => ({ ...part, on: true })) };
  const unticked = { ...ticked, parts: ticked.parts.map((part) => ({ ...part, on: false })) };
  expect(changed(changed(history, ticked, 5001), unticked, 5002).past).toHaveLength(5);
});

it('goes back to exactly what was, and forth again', () =>
  fc.assert(
    fc.property(fc.array(fc.record({ name: fc.string(), pause: fc.nat(3000) }), { maxLength: 40 }), (edits) => {
      let at = 0;
      let history = begun(start);
      for (const { name, pause } of edits) history = changed(history, named(history.document, name), (at += pause));
      const last = history.document;
      const steps = history.past.length;
      for (let step = 0; step < steps; step += 1) history = undone(history);
      expect(history.document).toBe(start);
      expect(undone(history)).toBe(history);
      for (let step = 0; step < steps; step += 1) history = redone(history);
      expect(history.document).toBe(last);
      expect(redone(history)).toBe(history);
    }),
  ));

it('forgets what is long ago, and what was taken back once something else is done', () => {
  let history = begun(start);
  for (let index = 0; index < 150; index += 1) history = changed(history, named(start, String(index)), index * 2000);
  expect(history.past).toHaveLength(100);
  expect(changed(undone(history), start, 1).future).toEqual([]);
});
