import type { ReactElement } from 'react';
import { renderToStaticMarkup } from 'react-dom/server';
import { filledIn, forVisitor, withPictures, type Ending, type FormLanguage, type Look } from '../core/forms/index.ts';
import type { FormDocument } from '../core/intake/index.ts';
import { printCss } from './css.ts';
import { Frame } from './Frame.tsx';
import { printFontFaces } from './fonts.ts';
import { printFrameCss } from './frameCss.ts';
import { FormView } from './FormView.tsx';
import { languageOf } from './language.ts';
import type { FormShown } from './shown.ts';
import { wordsIn } from './words/index.ts';

/** A form, or what is shown instead of it: its HTML, and the style that belongs to it. */
export interface Printed {
  html: string;
  css: string;
}

/** In front of the ids of a form's elements on pages of others. @param action its public address, whose last part is its own */
export const prefixFor = (action: string): string => `f-${(action.split('/').at(-1) ?? '').replace(/\W/g, '-')}`;

/** Our own address, out of a form's. @param action its public address */
export const baseOf = (action: string): string => action.replace(/\/in\/[^/]*$/, '');

const rootOf = (prefix: string): string => `${prefix}-form`;

/** Prints a form: the same bytes in the builder, on its own page, to be copied, and for the script on pages of others. */
export const printForm = (shown: FormShown): Printed =>
  print(shown.filled.prefix, shown.face.look, shown.language, <FormView {...shown} />);

/** A form as pages of others show it: in its frame, where it shows itself. @param inside the form, or what stands in its place */
export function printPlaced(
  prefix: string,
  { look, presentation, showing, title, button }: FormDocument,
  language: FormLanguage,
  inside: Printed,
): Printed {
  if (presentation === 'inline') return inside;
  const id = `${prefix}-frame`;
  const html = renderToStaticMarkup(
    <Frame id={id} presentation={presentation} showing={showing} name={title || button} say={wordsIn(language)}>
      {MARK}
    </Frame>,
  );
  const css = `${printFrameCss(look, presentation, `#${id}`, `#${rootOf(prefix)}`)}\n${inside.css}`;
  const at = html.lastIndexOf(MARK);
  return { html: `${html.slice(0, at)}\n${inside.html}${html.slice(at + MARK.length)}`, css };
}

/** Stands for what is put into a frame. */
const MARK = '[inside]';

/**
 * The form as it is copied into a page of others, with its style before it.
 * @param action its public address
 * @param version the published version that it is; left out for a draft
 */
export function printFormToCopy(action: string, document: FormDocument, version?: number): string {
  const base = baseOf(action);
  // Nobody knows who meets it there.
  const { html, css } = printFresh(
    action,
    forVisitor(withPictures(document, base), {}),
    languageOf(document, ''),
    version,
  );
  const fonts = printFontFaces(document.look, base);
  return `<style>\n${[fonts, css].filter(Boolean).join('\n')}\n</style>\n${html}`;
}

/** A form as a page of others meets it, with nothing typed. @param action its public address */
export const printFresh = (action: string, document: FormDocument, language: FormLanguage, version?: number): Printed =>
  printForm({
    version,
    action,
    face: document,
    language,
    filled: { prefix: prefixFor(action), typed: null, wrong: {}, kept: {} },
    carries: 'script',
  });

/** With what a visitor goes on, each at an address. */
interface Onward {
  link: Ending['link'];
  download: Ending['link'];
}

/** What stands in the place of a form that was sent, or is closed. */
export const printMessage = (
  prefix: string,
  look: Look,
  language: FormLanguage,
  { title, text, link = null, download = null }: { title: string; text: string } & Partial<Onward>,
): Printed =>
  print(
    prefix,
    look,
    language,
    <div role="status" tabIndex={-1} data-message>
      {title !== '' && <h2 dir="auto">{title}</h2>}
      {text.split(/\n\s*\n/).map((paragraph, at) => (
        <p key={at} dir="auto">
          {paragraph}
        </p>
      ))}
      {download && (
        <p>
          <a className="go" href={download.url} dir="auto">
            {download.label}
          </a>
        </p>
      )}
      {link && (
        <p>
          <a className="go" href={link.url} target="_top" dir="auto">
            {link.label}
          </a>
        </p>
      )}
    </div>,
  );

/** What an ending is shown with. */
export interface EndingFacts {
  /** Where what is handed out is; '' for nowhere. */
  downloadAt: string;
  /** Whether a mail asks whoever sent this to confirm, unless they did before: then that is said, where nobody wrote other words. */
  isAsked: boolean;
}

/**
 * What stands in the place of a form that was sent.
 * @param answerOf the answer to a field, in words
 * @param downloadAt where the visitor gets what is handed out; '' where nobody sent anything
 */
export const printEnding = (
  prefix: string,
  look: Look,
  language: FormLanguage,
  { title, message, link, download }: Ending,
  answerOf: (field: string) => string,
  { downloadAt, isAsked }: EndingFacts,
): Printed =>
  printMessage(prefix, look, language, {
    title: title || wordsIn(language)('thanks'),
    text: message || wordsIn(language)(isAsked ? 'sent.asked' : 'sent.taken'),
    link: link && { ...link, url: filledIn(link.url, answerOf) },
    download: download && downloadAt !== '' ? { label: download.label, url: downloadAt } : null,
  });

/** What is said instead of a form to a visitor of whom something is known. */
export const printInstead = (
  prefix: string,
  { look, title }: Pick<FormDocument, 'look' | 'title'>,
  language: FormLanguage,
  instead: Ending,
): Printed =>
  printMessage(prefix, look, language, { title: instead.title || title, text: instead.message, link: instead.link });

/** What stands in the place of a form that takes nothing. */
export const printClosed = (prefix: string, look: Look, language: FormLanguage, text: string): Printed => {
  const say = wordsIn(language);
  return printMessage(prefix, look, language, { title: say('closed.title'), text: text || say('closed.text') });
};

function print(prefix: string, look: Look, language: FormLanguage, inside: ReactElement): Printed {
  const root = rootOf(prefix);
  const html = renderToStaticMarkup(
    <div id={root} lang={language}>
      {inside}
    </div>,
  );
  return { html: inLines(html), css: printCss(look, `#${root}`) };
}

/**
 * Breaks lines before what stands by itself, and writes names of attributes in small letters, so that people can read what
 * they copy. No text has "><" or a plain quotation mark in it.
 */
const inLines = (html: string): string =>
  html
    .replace(
      />(?=<(?:div|form|fieldset|h2|h3|hr|img|legend|label|p|ul|li|select|option|table|tr|button|script|input|datalist)\b)/g,
      '>\n',
    )
    .replace(/ [a-z]+[A-Z][A-Za-z]*="/g, (name) => name.toLowerCase());
