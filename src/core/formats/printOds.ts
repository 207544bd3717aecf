import { strToU8, zipSync } from 'fflate';

const MEDIA_TYPE = 'application/vnd.oasis.opendocument.spreadsheet';
const NAMES = 'urn:oasis:names:tc:opendocument:xmlns';

const escaped = (text: string): string =>
  text
    // What XML 1.0 has no place for (2.2).
    // eslint-disable-next-line no-control-regex -- these very signs
    .replace(/[\u0000-\u0008\u000B\u000C\u000E-\u001F\uFFFE\uFFFF]/g, '')
    .replace(/&/g, '&amp;')
    .replace(/</g, '&lt;')
    .replace(/>/g, '&gt;')
    .replace(/"/g, '&quot;');

const cell = (value: string | number): string =>
  typeof value === 'number'
    ? `<table:table-cell office:value-type="float" office:value="${value}"><text:p>${value}</text:p></table:table-cell>`
    : `<table:table-cell office:value-type="string"><text:p>${escaped(value)}</text:p></table:table-cell>`;

const row = (values: (string | number)[]): string => `<table:table-row>${values.map(cell).join('')}</table:table-row>`;

/**
 * A table as a spreadsheet (OpenDocument 1.3, ISO/IEC 26300): a text is a text in it, whatever it begins with, and a figure a
 * figure.
 * @param name of the sheet
 */
export function printOds(name: string, head: string[], rows: (string | number)[][]): Uint8Array {
  const content = `<?xml version="1.0" encoding="UTF-8"?><office:document-content xmlns:office="${NAMES}:office:1.0" xmlns:table="${NAMES}:table:1.0" xmlns:text="${NAMES}:text:1.0" office:version="1.3"><office:body><office:spreadsheet><table:table table:name="${escaped(name)}">${[head, ...rows].map(row).join('')}</table:table></office:spreadsheet></office:body></office:document-content>`;
  const manifest = `<?xml version="1.0" encoding="UTF-8"?><manifest:manifest xmlns:manifest="${NAMES}:manifest:1.0" manifest:version="1.3"><manifest:file-entry manifest:full-path="/" manifest:version="1.3" manifest:media-type="${MEDIA_TYPE}"/><manifest:file-entry manifest:full-path="content.xml" manifest:media-type="text/xml"/></manifest:manifest>`;
  return zipSync({
    // First, and not packed (OpenDocument 1.3, part 2, 3.3), so that what it is stands at the beginning of the file.
    mimetype: [strToU8(MEDIA_TYPE), { level: 0 }],
    'content.xml': strToU8(content),
    'META-INF/manifest.xml': strToU8(manifest),
  });
}
