import { describe, expect, it } from 'vitest';
import { golden } from '../../../test/world/golden.ts';
import { checkProfile, PROFILE_FORMAT, readProfile } from './index.ts';

describe('a connector profile', () => {
  it.each(golden('profile'))('of format %i reads as the same one of today', (_, document) => {
    const read = readProfile(document);
    expect(read.ok && read.value).toEqual(golden('profile').at(-1)?.[1]);
    expect(checkProfile(document)).toMatchObject({ ok: true, value: { format: PROFILE_FORMAT } });
  });

  it.each([[{ format: 'another one' }], [{ format: 99 }], [null], ['text']])('is refused when it is %j', (document) => {
    expect(readProfile(document).ok).toBe(false);
    expect(checkProfile(document)).toMatchObject({ ok: false, issues: [{ detail: expect.any(String) as string }] });
  });
});
