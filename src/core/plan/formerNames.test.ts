import { describe, expect, it } from 'vitest';
import { catalogueOf } from '../../../test/world/catalogue.ts';
import { withFormerNames, type Catalogue } from './index.ts';

const list = (id: string, name: string, groups: { id: string; name: string }[] = []) => ({ id, name, groups });
const field = (key: string, label: string) => ({
  key,
  label,
  type: 'text' as const,
  required: false,
  choices: [],
  maxLength: null,
});
const fetchedOneByOne = (...each: Partial<Catalogue>[]) =>
  each.map(catalogueOf).reduce((before, after, day) => withFormerNames(before, after, day));

describe('what something was called before it was renamed there', () => {
  it('is kept for lists, groups, tags, kinds and fields, by their ids', () => {
    const before = {
      lists: [list('l', 'Letter', [{ id: 'g', name: 'North' }])],
      tags: [{ id: 't', name: 'new' }],
      fields: [field('f', 'Town')],
      kinds: [{ id: 'k', name: 'Enquiry', fields: [field('e', 'Words')] }],
    };
    const after = {
      lists: [list('l', 'Sky letter', [{ id: 'g', name: 'South' }])],
      tags: [{ id: 't', name: 'arrived' }],
      fields: [field('f', 'Home town')],
      kinds: [{ id: 'k', name: 'Request', fields: [field('e', 'Message')] }],
    };
    const { lists, tags, fields, kinds } = fetchedOneByOne(before, after);
    expect([lists[0], lists[0]?.groups[0], tags[0], fields[0], kinds[0], kinds[0]?.fields[0]]).toMatchObject(
      ['Letter', 'North', 'new', 'Town', 'Enquiry', 'Words'].map((name) => ({ formerly: { name, until: 1 } })),
    );
  });
  it('is the last other name, and since when, however often it is fetched again', () => {
    const called = (name: string) => ({ lists: [list('l', name)] });
    expect(fetchedOneByOne(called('a'), called('b'), called('b')).lists[0]?.formerly).toEqual({ name: 'a', until: 1 });
    expect(fetchedOneByOne(called('a'), called('b'), called('c')).lists[0]?.formerly).toEqual({ name: 'b', until: 2 });
  });
  it('is nothing for what keeps its name, and for what is another thing under the same name', () => {
    const { lists } = fetchedOneByOne(
      { lists: [list('l', 'Letter')] },
      { lists: [list('l', 'Letter'), list('m', 'Letter')] },
    );
    expect(lists.map(({ formerly }) => formerly)).toEqual([undefined, undefined]);
  });
});
