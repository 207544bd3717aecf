import { Unzip, UnzipInflate } from 'fflate';

/** A packed file holds more than it may, whatever it says of itself. */
export class UnpacksToTooMuch extends Error {}

/** A part of a packed file is handed on in pieces of this size, so that what unpacks to much is found before it does. */
const PIECE_BYTES = 64 * 1024;

/**
 * The wanted parts of a packed file, by their names. All of its parts are counted as they unpack, by what they really hold.
 * @param most bytes that all of them may unpack to
 * @throws UnpacksToTooMuch
 */
export function unpacked(
  bytes: Uint8Array,
  wanted: (name: string) => boolean,
  most: number,
): Record<string, Uint8Array> {
  const found: Record<string, Uint8Array> = Object.create(null) as Record<string, Uint8Array>;
  let total = 0;
  const reader = new Unzip((file) => {
    const pieces: Uint8Array[] = [];
    file.ondata = (error, piece, isLast) => {
      if (error) throw error;
      total += piece.length;
      if (total > most) throw new UnpacksToTooMuch();
      if (!wanted(file.name)) return;
      pieces.push(piece);
      if (isLast) found[file.name] = joined(pieces);
    };
    file.start();
  });
  reader.register(UnzipInflate);
  for (let at = 0; at < bytes.length; at += PIECE_BYTES)
    reader.push(bytes.subarray(at, at + PIECE_BYTES), at + PIECE_BYTES >= bytes.length);
  return found;
}

function joined(pieces: Uint8Array[]): Uint8Array {
  const whole = new Uint8Array(pieces.reduce((sum, { length }) => sum + length, 0));
  let at = 0;
  for (const piece of pieces) {
    whole.set(piece, at);
    at += piece.length;
  }
  return whole;
}

/** How far the cells of a sheet reach (Office Open XML, ISO/IEC 29500-1, 18.3.1.4: a cell says where it is, as in C7). */
export function furthestCell(sheet: string): { row: number; column: number; name: string } {
  let row = 1;
  let column = 1;
  let name = 'A1';
  for (const [, letters = '', digits = ''] of sheet.matchAll(/\br="([A-Z]{1,3})(\d{1,8})"/g)) {
    const at = {
      row: Number(digits),
      column: Array.from(letters, (letter) => letter.charCodeAt(0) - 64).reduce((sum, digit) => sum * 26 + digit, 0),
    };
    if (at.row * at.column > row * column) name = `${letters}${digits}`;
    row = Math.max(row, at.row);
    column = Math.max(column, at.column);
  }
  return { row, column, name };
}
