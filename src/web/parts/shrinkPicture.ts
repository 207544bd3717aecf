/** A picture that somebody chose, and how large it is. */
export interface ChosenPicture {
  file: File;
  /** Pixels. */
  width: number;
  height: number;
}

/** Reads how large a picture is. @returns null for what is no picture that browsers read */
export async function readPicture(file: File): Promise<ChosenPicture | null> {
  try {
    const { width, height } = await createImageBitmap(file);
    return { file, width, height };
  } catch {
    return null;
  }
}

/** What is tried, one after the other: less exact, and then smaller than it has to be. */
const TRIES: [share: number, quality: number][] = [
  [1, 0.85],
  [1, 0.7],
  [1, 0.5],
  [0.75, 0.6],
  [0.5, 0.6],
];

/**
 * Makes a picture smaller, as WebP.
 * @param width pixels at most
 * @param most bytes
 * @returns null where it stays too heavy, or the browser cannot
 */
export async function shrinkPicture(
  { file, ...has }: ChosenPicture,
  width: number,
  most: number,
): Promise<Blob | null> {
  const enough = Math.min(1, width / has.width);
  for (const [share, quality] of TRIES) {
    const [wide, high] = [has.width, has.height].map((size) => Math.max(1, Math.round(size * enough * share)));
    const bitmap = await createImageBitmap(file, { resizeWidth: wide, resizeHeight: high, resizeQuality: 'high' });
    const canvas = new OffscreenCanvas(bitmap.width, bitmap.height);
    canvas.getContext('2d')?.drawImage(bitmap, 0, 0);
    const blob = await canvas.convertToBlob({ type: 'image/webp', quality });
    if (blob.type === 'image/webp' && blob.size <= most) return blob;
  }
  return null;
}
