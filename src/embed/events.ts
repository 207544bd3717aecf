/**
 * Reads server-sent events (WHATWG HTML, 9.2.6) as they stream in: the data of each, whatever its type. Lines end by CR LF, LF or CR; one that
 * ends by a CR at the end of a piece is read with the next piece. What is not ended by an empty line is no event.
 */
export async function readEvents(
  body: ReadableStream<Uint8Array<ArrayBuffer>>,
  told: (data: string) => void,
): Promise<void> {
  const reader = body.pipeThrough(new TextDecoderStream()).getReader();
  let rest = '';
  let data: string[] = [];
  for (let part = await reader.read(); !part.done; part = await reader.read()) {
    const lines = (rest + part.value).split(/\r\n|\n|\r(?!$)/);
    rest = lines.pop() ?? '';
    for (const line of lines) {
      const field = /^data(?:: ?(.*))?$/s.exec(line);
      if (field) data.push(field[1] ?? '');
      if (line !== '') continue;
      if (data.length > 0) told(data.join('\n'));
      data = [];
    }
  }
}
