import { describe, expect, it } from 'vitest';
import { withHead } from './longList.ts';

const page = (...ids: string[]) => ({ rows: ids.map((id) => ({ id, state: 'old' })), next: ids.at(-1) ?? null });
const ids = (pages: { rows: { id: string }[] }[]) => pages.map(({ rows }) => rows.map(({ id }) => id).join(''));

describe('a long list whose head was fetched anew', () => {
  it('has what is new before the rest, each once, and goes on where it did', () => {
    const pages = withHead(
      [page('d', 'c'), page('b', 'a')],
      [
        { id: 'f', state: 'new' },
        { id: 'e', state: 'new' },
      ],
    );
    expect(ids(pages)).toEqual(['fedc', 'ba']);
    expect(pages.map(({ next }) => next)).toEqual(['c', 'a']);
  });
  it('has what is known as it is now', () => {
    const pages = withHead(
      [page('d', 'c'), page('b', 'a')],
      [
        { id: 'd', state: 'new' },
        { id: 'c', state: 'new' },
      ],
    );
    expect(pages[0]?.rows.map(({ state }) => state)).toEqual(['new', 'new']);
  });
  it('has nothing twice, where something came to its head from further down', () => {
    const pages = withHead(
      [page('d', 'c'), page('b', 'a')],
      [
        { id: 'a', state: 'new' },
        { id: 'd', state: 'new' },
      ],
    );
    expect(ids(pages)).toEqual(['adc', 'b']);
  });
});
