import { execFileSync } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { DomUtils, parseDocument } from 'htmlparser2';
import { expect, it } from 'vitest';
import { printOds } from '../../src/core/formats/index.ts';
import { openedBySheets } from '../world/sheets.ts';

/** What Python's own reader of ZIP files finds in a file. */
function unzipped(bytes: Uint8Array): { names: string[]; stored: boolean; content: string; starts: string } {
  const file = path.join(mkdtempSync(path.join(tmpdir(), 'ods-')), 'table.ods');
  writeFileSync(file, bytes);
  const script = `import json, sys, zipfile
z = zipfile.ZipFile(sys.argv[1])
assert z.testzip() is None
i = z.infolist()
print(json.dumps({"names": [n.filename for n in i], "stored": i[0].compress_type == 0, "content": z.read("content.xml").decode(), "starts": open(sys.argv[1], "rb").read()[38:90].decode("latin1")}))`;
  return JSON.parse(execFileSync('python3', ['-c', script, file], { encoding: 'utf8' })) as ReturnType<typeof unzipped>;
}

it('a spreadsheet is what others read as one, with texts as texts and figures as figures', () => {
  const { names, stored, content, starts } = unzipped(
    printOds(
      'From seeing to arriving',
      ['Source', 'Completed'],
      [
        ['=HYPERLINK("https://evil.example")', 12],
        ['Ünter & <every> "story"\u0001', 0.5],
      ],
    ),
  );
  expect(names).toEqual(['mimetype', 'content.xml', 'META-INF/manifest.xml']);
  // OpenDocument 1.3, part 2, 3.3: the media type is not packed and stands at a fixed place.
  expect([stored, starts.startsWith('application/vnd.oasis.opendocument.spreadsheet')]).toEqual([true, true]);
  const read = parseDocument(content, { xmlMode: true });
  const cells = DomUtils.getElementsByTagName('table:table-cell', read.children).map((one) => [
    one.attribs['office:value-type'],
    one.attribs['office:value'] ?? DomUtils.textContent(one),
  ]);
  expect(cells).toEqual([
    ['string', 'Source'],
    ['string', 'Completed'],
    ['string', '=HYPERLINK("https://evil.example")'],
    ['float', '12'],
    ['string', 'Ünter & <every> "story"'],
    ['float', '0.5'],
  ]);
  expect(content).not.toContain('table:formula');
});

it('is opened by LibreOffice: texts like formulas are texts, figures are figures', () => {
  const file = path.join(mkdtempSync(path.join(tmpdir(), 'ods-')), 'opened.ods');
  writeFileSync(
    file,
    printOds(
      'Figures',
      ['Source', 'Completed'],
      [
        ['=1+1', 12],
        ['Ünter & <every>', 0.5],
      ],
    ),
  );
  const cells = openedBySheets(file)
    .slice(0, 3)
    .map((row) => row.slice(0, 2).map(({ text, type, isFormula }) => [text, type, isFormula]));
  expect(cells).toEqual([
    [
      ['Source', 'string', false],
      ['Completed', 'string', false],
    ],
    [
      ['=1+1', 'string', false],
      ['12', 'float', false],
    ],
    [
      ['Ünter & <every>', 'string', false],
      ['0.5', 'float', false],
    ],
  ]);
}, 120_000);
