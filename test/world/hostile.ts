import { zipSync, strToU8 } from 'fflate';

/** Something that nobody sends who means it, and what it is called. */
export interface Hostile {
  name: string;
  body: string | Uint8Array<ArrayBuffer>;
}

const named = (cases: Record<string, string | Uint8Array<ArrayBuffer>>): Hostile[] =>
  Object.entries(cases).map(([name, body]) => ({ name, body }));

/** The beginning of a body, cut off at every byte; of a long one, at so many places. */
export function truncated(body: string, most = 60): Hostile[] {
  const step = Math.max(1, Math.ceil(body.length / most));
  const cuts: Hostile[] = [];
  for (let at = 0; at < body.length; at += step) cuts.push({ name: `cut at ${at}`, body: body.slice(0, at) });
  return cuts;
}

const times = (count: number, make: (at: number) => string, between = ''): string =>
  Array.from({ length: count }, (_, at) => make(at)).join(between);

/** @param around puts a value where the receiver expects something */
export const hostileJson = (around: (value: string) => string = (value) => value): Hostile[] => [
  ...named({
    'names by the thousand': `{${times(14_000, (at) => `"n${at}":1`, ',')}}`,
    'a list by the thousand': around(`[${times(60_000, () => '{}', ',')}]`),
    'deep lists': `${'['.repeat(60_000)}${']'.repeat(60_000)}`,
    'deep objects': `${'{"a":'.repeat(20_000)}1${'}'.repeat(20_000)}`,
    'a deep value': around(`${'['.repeat(5_000)}${']'.repeat(5_000)}`),
    'never closed': '{"a":['.repeat(20_000),
    'names of the prototype':
      '{"__proto__":{"a":1},"constructor":{"prototype":{"b":2}},"toString":1,"hasOwnProperty":[]}',
    'a constructor': '{"constructor":"x","email":"a@b.example","id":"12345678","said":{"constructor":1}}',
    'half of a pair': around('"\\ud800 and \\udfff"'),
    'a NUL': around('"a\\u0000b"'),
    'one long text': around(`"${'x'.repeat(200_000)}"`),
    'a long figure': around('9'.repeat(100_000)),
    'no object': '7',
    nothing: '',
    'one name again and again': `{${times(10_000, (at) => `"email":"${at}@a.example"`, ',')}}`,
  }),
  ...truncated('{"email":"a@hill.example","name":{"first":"Ré"},"list":[1,true,null]}', 12),
];

export const hostileForms = (): Hostile[] => [
  ...named({
    'one name 60,000 times': 'a=1&'.repeat(60_000),
    'names by the thousand': times(12_000, (at) => `n${at}=1`, '&'),
    'names of the prototype': '__proto__=1&constructor=2&toString=3&email=x%40hill.example&__proto__=4',
    'broken escapes': '%=%&%zz=%e4%&email=%00%ff%fe%c0%80',
    'a NUL': 'email=a%00b%40hill.example&name=%00',
    'signs alone': '=&'.repeat(50_000),
    'one long name': `${'n'.repeat(250_000)}=1`,
  }),
  ...truncated('email=a%40hill.example&name=R%C3%A9&consent=yes', 12),
];

const BOUNDARY = 'hostile7';
export const PARTS_TYPE = `multipart/form-data; boundary=${BOUNDARY}`;
const part = (head: string, content: string): string => `--${BOUNDARY}\r\n${head}\r\n\r\n${content}\r\n`;
const field = (name: string, value: string) => part(`Content-Disposition: form-data; name="${name}"`, value);
const file = (name: string, content: string) =>
  part(`Content-Disposition: form-data; name="${name}"; filename="a.txt"\r\nContent-Type: text/plain`, content);
const END = `--${BOUNDARY}--\r\n`;

/** @param takes the name of a field that takes a file */
export const hostileParts = (takes: string): Hostile[] => [
  ...named({
    'a file without its end': `${field('email', 'a@hill.example')}${file(takes, 'hello')}`,
    'an unknown file without its end': `${field('email', 'a@hill.example')}${file('other', 'hello')}`,
    'JSON without its end': part(
      `Content-Disposition: form-data; name="j"; filename="a.json"\r\nContent-Type: application/json`,
      '{"a":',
    ),
    'a field without its end': field('email', 'a@hill.example'),
    'no boundary at all': 'hello',
    'its boundary alone': `--${BOUNDARY}`,
    'its end alone': END,
    'a head that never ends': `--${BOUNDARY}\r\n${'X-Long: y\r\n'.repeat(9_000)}`,
    'parts by the thousand': `${times(1_500, (at) => field(`n${at}`, '1'))}${END}`,
    'files by the hundred': `${times(300, () => file(takes, 'x'))}${END}`,
    'parts without a name': `${part('Content-Disposition: form-data', 'x').repeat(200)}${END}`,
    'names of the prototype': `${field('__proto__', '1')}${field('constructor', '2')}${END}`,
    'a name of NULs': `${field('a\u0000b', '\u0000')}${file(takes, '\u0000\u0000')}${END}`,
    'a form in a form': `${part(`Content-Disposition: form-data; name="x"\r\nContent-Type: multipart/mixed; boundary=in`, '--in\r\n\r\n--in--')}${END}`,
  }),
  ...truncated(`${field('email', 'a@hill.example')}${file(takes, 'hello')}${file(takes, 'again')}${END}`, 60),
];

export const hostileXml = (): Hostile[] => [
  ...named({
    deep: `${'<a>'.repeat(30_000)}${'</a>'.repeat(30_000)}`,
    'never closed': '<a>'.repeat(60_000),
    'attributes by the thousand': `<a ${times(20_000, (at) => `n${at}="1"`, ' ')}/>`,
    'an open comment': `<a>${'<!--'.repeat(40_000)}`,
    'open CDATA': `<a>${'<![CDATA['.repeat(20_000)}`,
    'references by the thousand': `<a>${'&#65;&amp;'.repeat(20_000)}</a>`,
    'what grows': '<!DOCTYPE a [<!ENTITY a "aaaaaaaaaa"><!ENTITY b "&a;&a;&a;&a;&a;">]><a>&b;</a>',
    'what leads elsewhere': '<!DOCTYPE a SYSTEM "file:///etc/passwd"><a/>',
    'names of the prototype': '<constructor><__proto__>1</__proto__></constructor>',
    'spaces by the thousand': `<a${' '.repeat(200_000)}>`,
    'signs of a beginning': '<'.repeat(200_000),
    'many alike': `<a>${'<b/>'.repeat(50_000)}</a>`,
  }),
  ...truncated('<?xml version="1.0"?><order id="7"><email>a@hill.example</email></order>', 12),
];

export const hostileHtml = (): Hostile[] =>
  named({
    'inputs by the thousand': `<form>${times(4_000, (at) => `<label for="i${at}">A ${at}</label><input id="i${at}" name="n${at}">`)}</form>`,
    'nested deep': `${'<div>'.repeat(60_000)}<form><input name=a></form>`,
    'a form in each': '<form><div><input name=a>'.repeat(8_000),
    'labels in labels': `<form>${'<label>a'.repeat(5_000)}<input name=a></form>`,
    'one attribute after the other': `<form ${times(20_000, (at) => `a${at}=1`, ' ')}><input name=a></form>`,
    'tables and formatting': '<table><b><i><tr>'.repeat(4_000),
    'options by the thousand': `<form><select name=a>${'<option>b'.repeat(60_000)}</select></form>`,
    'names of the prototype': '<form><input name=__proto__><input name=constructor><input name=toString></form>',
    'a NUL': '<form\u0000><input na\u0000me=a></form>',
    'half of a pair': '<form><input name="\ud800"></form>',
  });

export const hostileCss = (): Hostile[] =>
  named({
    'variables that double': `:root{--a0:red;${times(30, (at) => `--a${at + 1}:var(--a${at}) var(--a${at});`)}}p{color:var(--a30)}button{background:var(--a30)}`,
    'variables in a circle': ':root{--a:var(--b);--b:var(--a)}p{color:var(--a)}',
    'selectors that search': times(400, (at) => `${'* > * '.repeat(20)} p:not(:not(:not(.a${at}))){color:red}`),
    'nested deep': '@media all{'.repeat(20_000),
    brackets: `p{width:${'calc('.repeat(20_000)}}`,
    'one long value': `p{color:${'x'.repeat(800_000)}}`,
    rules: 'a{b:c}'.repeat(100_000),
  });

export const hostileDescriptions = (): Hostile[] => {
  const schemas = times(
    40,
    (at) =>
      `"S${at}":{"type":"object","properties":{"a":{"$ref":"#/components/schemas/S${at + 1}"},"b":{"$ref":"#/components/schemas/S${at + 1}"}}}`,
    ',',
  );
  const api = (paths: string, components = '{}') =>
    `{"openapi":"3.1.0","info":{"title":"x","version":"1"},"paths":${paths},"components":${components}}`;
  return [
    ...named({
      'schemas that double': api(
        '{"/a":{"post":{"operationId":"a","requestBody":{"content":{"application/json":{"schema":{"$ref":"#/components/schemas/S0"}}}},"responses":{}}}}',
        `{"schemas":{${schemas},"S40":{"type":"string"}}}`,
      ),
      'a schema of itself': api(
        '{}',
        '{"schemas":{"A":{"$ref":"#/components/schemas/A"},"B":{"allOf":[{"$ref":"#/components/schemas/B"}]}}}',
      ),
      'deep lists': `${'['.repeat(60_000)}${']'.repeat(60_000)}`,
      'YAML that doubles': `a: &a [x,x]\n${times(24, (at) => `b${at}: &b${at} [*${at === 0 ? 'a' : `b${at - 1}`},*${at === 0 ? 'a' : `b${at - 1}`}]`, '\n')}`,
      'YAML nested deep': `${'- '.repeat(20_000)}a`,
      'paths by the thousand': api(
        `{${times(3_000, (at) => `"/p${at}":{"get":{"operationId":"o${at}","responses":{}}}`, ',')}}`,
      ),
      'names of the prototype': api(
        '{"__proto__":{"get":{}},"constructor":{"post":{"operationId":"constructor","responses":{}}}}',
      ),
      'addresses elsewhere': api(
        '{"/a":{"$ref":"http://127.0.0.1:1/x"}}',
        '{"schemas":{"A":{"$ref":"file:///etc/passwd"}}}',
      ),
    }),
    ...truncated(api('{"/a":{"get":{"operationId":"a","responses":{}}}}'), 10),
  ];
};

export const hostileLines = (): Hostile[] =>
  named({
    'quotes by the thousand': `curl ${"'".repeat(100_001)}`,
    'substitutions nested': `curl ${'$('.repeat(20_000)}`,
    'options by the thousand': `curl http://a.example ${'-H a:b '.repeat(20_000)}`,
    'ends of lines': `curl ${'\\\n'.repeat(50_000)}`,
    'a word': 'curl',
    'no address': 'curl -d',
    'broken JSON': `curl http://a.example -d '${'{"a":'.repeat(10_000)}'`,
    'a NUL': 'curl http://a.example/\u0000',
  });

/** Paths of operators on what anybody sends. */
export const HOSTILE_PATHS = [
  `$${'..*'.repeat(12)}`,
  `$${'..[?@..a]'.repeat(8)}`,
  '$..[?search(@, "(a+)+$")]',
  '$..[?match(@.a, "(a|a)*b")]',
  `$${'[*,*,*,*]'.repeat(10)}`,
  '$.items[?count($.items[*]) > 1]',
];

const sheetXml = (cells: string) =>
  `<?xml version="1.0"?><worksheet xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main"><sheetData>${cells}</sheetData></worksheet>`;
const workbook = (sheet: string): Uint8Array<ArrayBuffer> =>
  zipSync({
    '[Content_Types].xml': strToU8('<Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types"/>'),
    'xl/workbook.xml': strToU8(
      '<workbook xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main" xmlns:r="http://schemas.openxmlformats.org/officeDocument/2006/relationships"><sheets><sheet name="A" sheetId="1" r:id="rId1"/></sheets></workbook>',
    ),
    'xl/_rels/workbook.xml.rels': strToU8(
      '<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Id="rId1" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/worksheet" Target="worksheets/sheet1.xml"/></Relationships>',
    ),
    'xl/worksheets/sheet1.xml': strToU8(sheet),
  });
const spreadsheet = (table: string): Uint8Array<ArrayBuffer> =>
  zipSync({
    mimetype: [strToU8('application/vnd.oasis.opendocument.spreadsheet'), { level: 0 }],
    'content.xml': strToU8(
      `<office:document-content xmlns:office="urn:o" xmlns:table="urn:t" xmlns:text="urn:x"><office:body><office:spreadsheet><table:table table:name="A">${table}</table:table></office:spreadsheet></office:body></office:document-content>`,
    ),
  });

/** Files that somebody brings to be imported. */
export const hostileFiles = (): Hostile[] => {
  const bomb = zipSync(
    { 'xl/worksheets/sheet1.xml': new Uint8Array(400_000_000), 'content.xml': new Uint8Array(10) },
    { level: 9 },
  );
  return named({
    'two cells far apart.xlsx': workbook(
      sheetXml('<row r="1"><c r="A1"><v>1</v></c></row><row r="1048576"><c r="XFD1048576"><v>2</v></c></row>'),
    ),
    'rows that repeat.ods': spreadsheet(
      '<table:table-row table:number-rows-repeated="1000000"><table:table-cell table:number-columns-repeated="16000"><text:p>x</text:p></table:table-cell></table:table-row>'.repeat(
        40,
      ),
    ),
    'unpacks to much.xlsx': bomb,
    'deep.json': `[${'['.repeat(200_000)}${']'.repeat(200_000)}]`,
    'never closed.json': '[{"a":'.repeat(100_000),
    'lines.jsonl': `{"a":1}\n{"a":${'['.repeat(100_000)}${']'.repeat(100_000)}}\n{"b":2}`,
    'one line.csv': `a,b\n${'x'.repeat(12_000_000)}`,
    'an open quote.csv': `a,b\n1,"${'y\n'.repeat(3_000_000)}`,
    'many columns.csv': `${times(60_000, (at) => `c${at}`, ',')}\n${'1,'.repeat(60_000)}`,
    'an endless card.vcf': `BEGIN:VCARD\r\nVERSION:4.0\r\nFN:${'x\r\n '.repeat(400_000)}`,
    'cards in cards.vcf': 'BEGIN:VCARD\r\n'.repeat(40_000),
    'names of the prototype.csv': '__proto__,constructor,toString\n1,2,3\n',
    'a NUL.csv': 'a\u0000,b\n\u0000,2\n',
    'nothing.csv': '',
  });
};
