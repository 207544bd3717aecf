import { describe, expect, it } from 'vitest';
import { addressIn } from './visitor.ts';
import { serialised } from './public/origins.ts';

// Addresses of documentation: RFC 5737 and RFC 3849. With a port: RFC 7239, 6.
describe('an entry of X-Forwarded-For', () => {
  it.each([
    ['203.0.113.7', '203.0.113.7'],
    ['203.0.113.7:51234', '203.0.113.7'],
    ['[2001:db8::7]:443', '2001:db8::7'],
    ['2001:db8::7', '2001:db8::7'],
    ['::ffff:203.0.113.7', '203.0.113.7'],
    ['unknown', null],
    ['<script>', null],
    ['', null],
  ])('"%s" is %s', (entry, address) => expect(addressIn(entry)).toBe(address));
});

// WHATWG URL, 4.6 (origin) and 3.3 (IDNA): what browsers send in Origin.
describe('a site that a form may be on', () => {
  it.each([
    ['https://Hill.Example', 'https://hill.example'],
    ['https://hill.example:443', 'https://hill.example'],
    ['http://hill.example:80', 'http://hill.example'],
    ['http://hill.example:8080', 'http://hill.example:8080'],
    ['https://hügel.example', 'https://xn--hgel-0ra.example'],
  ])('%s is %s to browsers', (typed, origin) => expect(serialised(typed)).toBe(origin));
});
