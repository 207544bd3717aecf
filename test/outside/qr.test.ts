import jsQR from 'jsqr';
import { encode } from 'uqr';
import { expect, it } from 'vitest';

/** How many dots of a picture make one of the code. */
const SCALE = 4;

// What we print is read by a package that nobody of those who print it wrote (ISO/IEC 18004 is the standard of both).
it.each([
  'https://iwashi.example/in/sky-letter-sign-up',
  'https://x.example/in/a',
  `https://x.example/in/${'a'.repeat(120)}`,
])('the QR code of %s is read as it', (address) => {
  const { data, size } = encode(address, { border: 4 });
  const side = size * SCALE;
  const picture = new Uint8ClampedArray(side * side * 4).fill(255);
  for (let y = 0; y < side; y += 1)
    for (let x = 0; x < side; x += 1)
      if (data[Math.floor(y / SCALE)]?.[Math.floor(x / SCALE)])
        picture.fill(0, (y * side + x) * 4, (y * side + x) * 4 + 3);
  expect(jsQR(picture, side, side)?.data).toBe(address);
});
