/**
 * How deep a JSON text nests at most, without building it: 0 for a text or a figure, 1 for a list of those. In one pass; what is no
 * JSON gives some figure.
 */
export function depthOf(text: string): number {
  let depth = 0;
  let deepest = 0;
  for (let at = 0; at < text.length; at += 1) {
    const sign = text.charCodeAt(at);
    if (sign === QUOTE) {
      for (at += 1; at < text.length && text.charCodeAt(at) !== QUOTE; at += 1)
        if (text.charCodeAt(at) === BACKSLASH) at += 1;
    } else if (sign === OPEN_LIST || sign === OPEN_OBJECT) {
      depth += 1;
      if (depth > deepest) deepest = depth;
    } else if (sign === CLOSE_LIST || sign === CLOSE_OBJECT) depth -= 1;
  }
  return deepest;
}

const QUOTE = 0x22;
const BACKSLASH = 0x5c;
const OPEN_LIST = 0x5b;
const CLOSE_LIST = 0x5d;
const OPEN_OBJECT = 0x7b;
const CLOSE_OBJECT = 0x7d;
