import { bad, good } from '../../result.ts';
import { lineOf, step, type Pair } from './step.ts';

/** What becomes of a value that is not in the table. */
const UNKNOWN = ['is kept', 'is left out', 'becomes the other value', 'is an error'] as const;

export const lookUp = step({
  help: 'puts one value in the place of another, by a table',
  takes: ['text', 'yes/no', 'number'],
  gives: 'text',
  options: {
    pairs: { kind: 'pairs', label: 'Table', preset: [] },
    unknown: { kind: 'choice', label: 'What is not in it', preset: 'is kept', of: UNKNOWN },
    other: { kind: 'text', label: 'The other value', preset: '' },
  },
  examples: [
    { from: 'Moon', options: { pairs: [['moon', 'LUN']] }, to: 'LUN' },
    { from: 'Comets', options: { pairs: [['Moon', 'LUN']], unknown: 'is left out' }, to: '' },
    {
      from: 'Comets',
      options: { pairs: [['Moon', 'LUN']], unknown: 'becomes the other value', other: 'SKY' },
      to: 'SKY',
    },
  ],
  say: ({ pairs }) => `look-up (${pairs.length})`,
  apply: (value, { pairs, unknown, other }) => {
    const asked = lineOf(value);
    const found = foundIn(pairs, asked);
    if (found !== null) return good(found);
    switch (unknown) {
      case 'is kept':
        return good(asked);
      case 'is left out':
        return good('');
      case 'becomes the other value':
        return good(other);
      case 'is an error':
        return bad(`"${asked}" is not in the look-up table`);
      default:
        return unknown satisfies never;
    }
  },
});

/** As it is written; otherwise without regard to capitals. */
const foundIn = (pairs: readonly Pair[], asked: string): string | null => {
  const { written, plain } = tablesOf(pairs);
  return written.get(asked) ?? plain.get(asked.toLowerCase()) ?? null;
};

interface Tables {
  written: Map<string, string>;
  plain: Map<string, string>;
}

/** The table for looking up. Found once: pairs are never changed in place. */
function tablesOf(pairs: readonly Pair[]): Tables {
  const before = TABLES.get(pairs);
  if (before) return before;
  // Of several rows for one value the first counts.
  const rows = [...pairs].reverse();
  const tables = {
    written: new Map(rows),
    plain: new Map(rows.map(([from, to]) => [from.trim().toLowerCase(), to])),
  };
  TABLES.set(pairs, tables);
  return tables;
}

const TABLES = new WeakMap<readonly Pair[], Tables>();
