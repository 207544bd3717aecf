import 'reflect-metadata';
import type { ClassConstructor } from 'class-transformer';
import { describe, expect, it } from 'vitest';
import { golden } from '../../test/world/golden.ts';
import { readSource } from '../core/intake/index.ts';
import { readRoute } from '../core/plan/index.ts';
import { ChatSayInput } from './chat.ts';
import { check } from './checks.ts';
import { RouteDocumentInput } from './route.ts';
import {
  ChatDocumentInput,
  FormDocumentInput,
  PostsDocumentInput,
  RegistrationDocumentInput,
  ShopDocumentInput,
} from './source.ts';
import { ThemeInput } from './themes.ts';

const newest = (what: string): unknown => golden(what).at(-1)?.[1];
const source = (what: string): object => {
  const read = readSource(newest(what));
  if (!read.ok) throw new Error(read.issue.detail);
  return read.value;
};
const route = (): object => {
  const read = readRoute(newest('route'));
  if (!read.ok) throw new Error(read.issue.detail);
  return read.value;
};

const DOCUMENTS: [what: string, type: ClassConstructor<object>, document: () => object][] = [
  ['a form', FormDocumentInput, () => source('source')],
  ['a webhook', PostsDocumentInput, () => source('posts')],
  ['a shop', ShopDocumentInput, () => source('shop')],
  ['a registration', RegistrationDocumentInput, () => source('registration')],
  ['a chat', ChatDocumentInput, () => source('chat')],
  ['a route', RouteDocumentInput, route],
  ['a line in a chat', ChatSayInput, () => ({ id: 'line-0001', said: { kind: 'text', text: 'Hello' } })],
  ['a look', ThemeInput, () => ({ name: 'Night', look: (source('source') as { look: object }).look })],
];

type Path = (string | number)[];
const isPart = (value: unknown): value is object => typeof value === 'object' && value !== null;
/** Where each object and list in a document stands. */
const partsIn = (value: unknown, at: Path = []): Path[] =>
  isPart(value)
    ? Object.entries(value).flatMap(([name, part]) =>
        isPart(part) ? [[...at, name], ...partsIn(part, [...at, name])] : [],
      )
    : [];
const partAt = (document: unknown, at: Path): unknown =>
  at.reduce<unknown>((part, step) => (isPart(part) ? (part as Record<string, unknown>)[step] : undefined), document);
function withPart(document: object, at: Path, value: unknown): object {
  const copy = structuredClone(document);
  const parent = partAt(copy, at.slice(0, -1)) as Record<string, unknown>;
  const last = String(at.at(-1));
  if (value === undefined && !Array.isArray(parent)) Reflect.deleteProperty(parent, last);
  else parent[last] = value;
  return copy;
}
/** Whether a part stands there again, as what it is: what has a usual value may be left out. */
const stands = (value: unknown, like: unknown): boolean =>
  isPart(value) && Array.isArray(value) === Array.isArray(like);

describe.each(DOCUMENTS)('%s', (_, type, document) => {
  it('is right as it is', () => {
    const checked = check(type, document());
    expect(checked.ok ? [] : checked.issues).toEqual([]);
    expect(partsIn(document()).length).toBeGreaterThan(0);
  });
  it.each([
    ['is missing', undefined],
    ['is an empty list', []],
    ['is an empty object', {}],
    ['is nothing', null],
    ['is a text', 'x'],
    ['is a list of a list', [[]]],
  ])('is never taken with a part that %s', (_name, instead) => {
    const taken = partsIn(document()).filter((at) => {
      const like = partAt(document(), at);
      // An empty list, and nothing where there may be nothing, are right.
      if (Array.isArray(like) && Array.isArray(instead) && instead.length === 0) return false;
      const checked = check(type, withPart(document(), at, instead));
      return checked.ok && !stands(partAt(checked.value, at), like);
    });
    expect(taken.map((at) => at.join('/')).filter((at) => !MAY_BE_NOTHING.test(at) || instead !== null)).toEqual([]);
  });
});

/** Parts that may be null. */
const MAY_BE_NOTHING = /(when|needs|face|hours|open\/\w+|link|branch|from)$/;
