import { bad, good } from '../../result.ts';
import { lineOf, step } from './step.ts';

const PARTS = ['host', 'path', 'last part of the path', 'parameter', 'without its query'] as const;

export const urlPart = step({
  help: 'takes a part of the address of a page, or a parameter of its query',
  takes: ['URL', 'text'],
  gives: 'text',
  options: {
    part: { kind: 'choice', label: 'Take its', preset: 'host', of: PARTS },
    name: { kind: 'text', label: 'Name of the parameter', preset: '' },
  },
  offers: PARTS.map((part) => ({ name: `${part} of a URL`, options: { part } })),
  examples: [
    { from: 'https://www.pellam-ridge.example/visit/open-night?ref=a', to: 'www.pellam-ridge.example' },
    { from: 'https://www.pellam-ridge.example/visit/open-night', options: { part: 'path' }, to: '/visit/open-night' },
    {
      from: 'https://www.pellam-ridge.example/visit/open-night/',
      options: { part: 'last part of the path' },
      to: 'open-night',
    },
    {
      from: 'https://www.pellam-ridge.example/?ref=news%20letter',
      options: { part: 'parameter', name: 'ref' },
      to: 'news letter',
    },
    {
      from: 'https://www.pellam-ridge.example/visit?ref=a#map',
      options: { part: 'without its query' },
      to: 'https://www.pellam-ridge.example/visit',
    },
  ],
  say: ({ part, name }) => (part === 'parameter' ? `parameter ${name}` : `${part} of the URL`),
  apply: (value, { part, name }) => {
    const written = lineOf(value);
    const url = URL.parse(written);
    if (!url) return bad(`"${written}" is not the address of a page`);
    switch (part) {
      case 'host':
        return good(url.host);
      case 'path':
        return good(url.pathname);
      case 'last part of the path':
        return good(decoded(url.pathname.split('/').findLast((one) => one !== '') ?? ''));
      case 'parameter':
        return good(url.searchParams.get(name) ?? '');
      case 'without its query':
        return good(`${url.origin}${url.pathname}`);
      default:
        return part satisfies never;
    }
  },
});

/** As it was meant; as it stands where it is not well written. */
function decoded(part: string): string {
  try {
    return decodeURIComponent(part);
  } catch {
    return part;
  }
}
