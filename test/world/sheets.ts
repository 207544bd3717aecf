import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { DomUtils, parseDocument } from 'htmlparser2';

/** A cell as LibreOffice has it after it opened a file. */
export interface SheetCell {
  text: string;
  /** string, float…; '' for an empty cell. */
  type: string;
  isFormula: boolean;
}

/** Has LibreOffice (Debian's, without a window) write a file in another format. @returns where it is, in the same folder as its profile */
export function convertedBySheets(file: string, to: string, folder: string, readAs: string[] = []): string {
  execFileSync(
    'soffice',
    [
      `-env:UserInstallation=file://${folder}/profile`,
      '--headless',
      ...readAs,
      '--convert-to',
      to,
      '--outdir',
      folder,
      file,
    ],
    { stdio: 'pipe', timeout: 120_000 },
  );
  return path.join(folder, `${path.basename(file, path.extname(file))}.${to.split(':')[0] ?? to}`);
}

/** Opens a file in LibreOffice and tells what is in its cells, row by row. */
export function openedBySheets(file: string): SheetCell[][] {
  const folder = mkdtempSync(path.join(tmpdir(), 'iwashi-sheets-'));
  try {
    const opened = readFileSync(convertedBySheets(file, 'fods', folder), 'utf8');
    const document = parseDocument(opened, { xmlMode: true });
    return DomUtils.getElementsByTagName('table:table-row', document.children).map((row) =>
      DomUtils.getElementsByTagName('table:table-cell', row.children).map((cell) => ({
        text: DomUtils.textContent(cell).trim(),
        type: cell.attribs['office:value-type'] ?? '',
        isFormula: cell.attribs['table:formula'] !== undefined,
      })),
    );
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}
