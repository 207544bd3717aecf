import { good } from '../../core/result.ts';
import type { ReaderName, Readers } from './readers.ts';

type Read<Name extends ReaderName> = (
  given: Readers[Name]['given'],
) => Readers[Name]['made'] | Promise<Readers[Name]['made']>;

/** What each reader needs is loaded when it is first asked: a thread for what programs send needs none of what pages need. */
const LOADS: { [Name in ReaderName]: () => Promise<Read<Name>> } = {
  description: async () => {
    const { describe } = await import('../connectors/propose/describe.ts');
    return ({ text, choice }) => describe(text, choice);
  },
  curl: async () => {
    const { profileFromCurl, readCurl } = await import('../connectors/propose/fromCurl.ts');
    return ({ line }) => {
      const request = readCurl(line);
      return request.ok ? good(profileFromCurl(request.value)) : request;
    };
  },
  forms: async () => {
    const { readForms } = await formats();
    return ({ html }) => readForms(html);
  },
  look: async () => {
    const { readLook } = await formats();
    return ({ html, sheets }) => readLook(html, sheets);
  },
  sheetNames: async () => {
    const { sheetsOf } = await formats();
    return ({ html, url }) => sheetsOf(html, url);
  },
  page: async () => {
    const { pageToShow } = await formats();
    return ({ html, url, sheets }) =>
      pageToShow(html, url, (address) => sheets.find((sheet) => sheet.url === address)?.css ?? '');
  },
  xml: async () => {
    const { readXml } = await import('../../core/intake/index.ts');
    return ({ text }) => readXml(text);
  },
  layout: async () => {
    const { layoutOfFile } = await files();
    return ({ place }) => layoutOfFile(place);
  },
  firstRows: async () => (await files()).firstRows,
  sheets: async () => (await files()).readSheets,
  wholeRows: async () => (await files()).readWholeRows,
};

const formats = () => import('../../core/formats/index.ts');
const files = () => import('./files.ts');

/** What a thread of the pool is asked to do: to read something, or to load what its readers need before anybody waits for it. */
export type Asked =
  { warm: ReaderName[] } | { [Name in ReaderName]: { name: Name; given: Readers[Name]['given'] } }[ReaderName];

/** A thread of the pool: reads one thing after the other. Whatever one of them does to it, the process goes on. */
export default async function read(asked: Asked): Promise<unknown> {
  if ('warm' in asked) return Promise.all(asked.warm.map((name) => LOADS[name]())).then(() => null);
  const load = LOADS[asked.name] as () => Promise<Read<ReaderName>>;
  return (await load())(asked.given);
}
