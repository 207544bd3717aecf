import 'reflect-metadata';
import { describe, expect, it } from 'vitest';
import { ROUTE_FORMAT } from '../core/plan/index.ts';
import { check } from './checks.ts';
import { formOf, postsOf, sourceField } from '../../test/world/fields.ts';
import { credentialTrouble } from './connection.ts';
import { RouteDocumentInput } from './route.ts';
import { FormDocumentInput, PostsDocumentInput } from './source.ts';

const pointers = (checked: ReturnType<typeof check>) =>
  checked.ok ? [] : checked.issues.map(({ pointer }) => pointer);
const field = sourceField('email', 'email', { required: true, keepAs: 'email' });
const form = formOf([field], { minimumSeconds: 2 });

describe('a form', () => {
  it('is taken as it is, and an address for posts as well', () => {
    expect(pointers(check(FormDocumentInput, form))).toEqual([]);
    expect(pointers(check(PostsDocumentInput, postsOf([field])))).toEqual([]);
    expect(pointers(check(PostsDocumentInput, form))).toEqual([
      '/kind',
      '/each',
      '/proof',
      '/idPath',
      '/events',
      '/answer',
      '/challenge',
    ]);
  });
  it('names what is wrong deep inside by JSON Pointer', () => {
    const wrong = {
      ...form,
      fields: [field, { ...field, key: '1st', label: '' }],
      minimumSeconds: 99,
      origins: ['https://a.example/page'],
    };
    expect(pointers(check(FormDocumentInput, wrong)).sort()).toEqual([
      '/fields/1/key',
      '/fields/1/label',
      '/minimumSeconds',
      '/origins',
    ]);
  });
  it('is not taken without its parts, or as something else', () => {
    expect(pointers(check(FormDocumentInput, {}))).toContain('/fields');
    for (const nonsense of [null, 7, 'x', []]) expect(check(FormDocumentInput, nonsense).ok).toBe(false);
  });
  it('loses what nobody asked for', () => {
    const checked = check(FormDocumentInput, { ...form, extra: 'x' });
    expect(checked.ok && 'extra' in checked.value).toBe(false);
  });
});

describe('a route', () => {
  const consent = {
    asks: [{ id: 'a1', purpose: 'letter', channels: ['email'], tickField: '' }],
    confirmedBy: { by: 'iwashi' },
    mail: { subject: 's', body: 'b', button: 'b' },
    expiresHours: 72,
  };
  const target = {
    id: 't1',
    needs: null,
    connectionId: 'c',
    places: [],
    tags: [],
    lines: [],
    duplicates: 'update',
  };
  const issues = (change: object, part: object = {}) =>
    pointers(
      check(RouteDocumentInput, {
        format: ROUTE_FORMAT,
        mails: [],
        accepted: {},
        sourceIds: ['s'],
        targets: [{ ...target, ...part }],
        consent,
        ...change,
      }),
    );
  it('is taken as it is', () => expect(issues({})).toEqual([]));
  it('knows its own words only', () => {
    expect(issues({}, { duplicates: 'overwrite' })).toEqual(['/targets/0/duplicates']);
    expect(
      issues(
        {},
        { lines: [{ id: 'l-f', to: 'f', from: { kind: 'field', field: 'a' }, steps: [{ kind: 'explode' }] }] },
      ),
    ).toEqual(['/targets/0/lines/0/steps']);
    expect(issues({ consent: { ...consent, expiresHours: 0 } })).toEqual(['/consent/expiresHours']);
  });
});

it('a key with a blank in it was copied badly, and a password may have one', () => {
  expect(credentialTrouble('key', 'tern key')).toContain('Copy it again');
  expect(credentialTrouble('secret', 'x'.repeat(3000))).toContain('longer');
  expect(credentialTrouble('key', 'tern-key_1')).toBeNull();
  expect(credentialTrouble('password', 'lantern hill')).toBeNull();
  expect(credentialTrouble('password', 'lantern\nhill')).toContain('line break');
});
