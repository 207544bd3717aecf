import { describe, expect, it } from 'vitest';
import { readFormBody, readUrlencoded } from '../../src/core/intake/index.ts';

// WHATWG URL, 5.1 "application/x-www-form-urlencoded parsing": split on &, skip empty parts, split on the first =, + is a
// blank, percent-decode, UTF-8 without BOM with replacement. The examples are from memory of the standard's own test set.
describe('application/x-www-form-urlencoded', () => {
  it.each<[string, [string, string][]]>([
    ['test', [['test', '']]],
    ['\uFEFFtest=\uFEFF', [['\uFEFFtest', '\uFEFF']]],
    ['%EF%BB%BFtest=%EF%BB%BF', [['\uFEFFtest', '\uFEFF']]],
    ['', []],
    ['a', [['a', '']]],
    ['a=b', [['a', 'b']]],
    ['a=', [['a', '']]],
    ['=b', [['', 'b']]],
    ['&', []],
    ['&a', [['a', '']]],
    ['a&', [['a', '']]],
    [
      'a&a',
      [
        ['a', ''],
        ['a', ''],
      ],
    ],
    [
      'a=b&c=d',
      [
        ['a', 'b'],
        ['c', 'd'],
      ],
    ],
    [
      'a=b&c=d&',
      [
        ['a', 'b'],
        ['c', 'd'],
      ],
    ],
    [
      '&&&a=b&&&&c=d&',
      [
        ['a', 'b'],
        ['c', 'd'],
      ],
    ],
    [
      'a=a&a=b&a=c',
      [
        ['a', 'a'],
        ['a', 'b'],
        ['a', 'c'],
      ],
    ],
    ['a==a', [['a', '=a']]],
    ['a=a+b+c+d', [['a', 'a b c d']]],
    ['%=a', [['%', 'a']]],
    ['%a=a', [['%a', 'a']]],
    ['%a_=a', [['%a_', 'a']]],
    [
      'id=0&value=%',
      [
        ['id', '0'],
        ['value', '%'],
      ],
    ],
    ['b=%2sf%2a', [['b', '%2sf*']]],
    ['b=%2%2af%2a', [['b', '%2*f*']]],
    ['b=%%2a', [['b', '%*']]],
    ['name=Zo%C3%AB+Quill', [['name', 'Zoë Quill']]],
    ['bad=%FE%FF', [['bad', '\uFFFD\uFFFD']]],
  ])('%j', (body, entries) => expect(readUrlencoded(body)).toEqual(entries));
});

// WHATWG Encoding, 4.2: latin1 and iso-8859-1 are labels of windows-1252; the bytes are from its index.
describe('a form of a page that is not in UTF-8', () => {
  it.each([
    ['name=Zo%EB+Qu%EFll', 'Zoë Quïll'],
    ['name=%80+5', '€ 5'],
    ['name=Zo%C3%AB', 'Zoë'],
    ['name=%EF%BF%BD', '\uFFFD'],
    ['name=plain', 'plain'],
  ])('%j', (body, name) => expect(readFormBody(body)).toEqual([['name', name]]));
});
