import { Parser } from 'htmlparser2';
import { good } from '../../result.ts';
import { printValue } from '../../values/index.ts';
import { step } from './step.ts';

/** After these a new line begins. */
const BLOCKS = new Set(
  'address article aside blockquote br dd div dl dt fieldset figure footer form h1 h2 h3 h4 h5 h6 header hr li main nav ol p pre section table tr ul'.split(
    ' ',
  ),
);
/** What stands in these is no text. */
const SILENT = new Set(['script', 'style', 'template', 'noscript']);

export const stripHtml = step({
  help: 'takes the tags out of HTML, and leaves its text',
  takes: ['text'],
  gives: 'text',
  options: {},
  examples: [
    { from: '<p>Open <b>night</b> &amp; talk</p><p>Bring a torch</p>', to: 'Open night & talk\nBring a torch' },
    { from: 'Hello<script>alert(1)</script> 1 < 2', to: 'Hello 1 < 2' },
  ],
  apply: (value) => good(textIn(printValue(value))),
});

function textIn(html: string): string {
  let text = '';
  let silent = 0;
  const parser = new Parser({
    ontext: (part) => {
      if (silent === 0) text += part.replace(/\s+/g, ' ');
    },
    onopentagname: (name) => {
      if (SILENT.has(name)) silent += 1;
      if (BLOCKS.has(name)) text += '\n';
    },
    onclosetag: (name) => {
      if (SILENT.has(name)) silent -= 1;
      if (BLOCKS.has(name)) text += '\n';
    },
  });
  parser.end(html);
  return text
    .replace(/ *\n */g, '\n')
    .replace(/\n{2,}/g, '\n')
    .trim();
}
