import fc from 'fast-check';
import { expect, it } from 'vitest';
import { Marks } from './marks.ts';

it('has what was added and nothing else, as a set has', () =>
  fc.assert(
    fc.property(fc.array(fc.string({ maxLength: 3 })), fc.array(fc.string({ maxLength: 3 })), (added, asked) => {
      const [marks, set] = [new Marks(), new Set<string>()];
      for (const text of added) {
        marks.add(text);
        set.add(text);
      }
      expect(marks.size).toBe(set.size);
      for (const text of [...added, ...asked]) expect(marks.has(text)).toBe(set.has(text));
    }),
    { seed: 9 },
  ));

it('holds a hundred thousand people in a few bytes each', () => {
  const count = 100_000;
  const before = process.memoryUsage().arrayBuffers;
  const marks = new Marks();
  for (let at = 0; at < count; at += 1) marks.add(`email:person${at}@hill.example`);
  expect(marks.size).toBe(count);
  for (let at = 0; at < count; at += 997) expect(marks.has(`email:person${at}@hill.example`)).toBe(true);
  for (let at = count; at < 2 * count; at += 997) expect(marks.has(`email:person${at}@hill.example`)).toBe(false);
  // What grew out of its place before may not be collected yet: twice the table at most.
  expect((process.memoryUsage().arrayBuffers - before) / count).toBeLessThan(64);
});
