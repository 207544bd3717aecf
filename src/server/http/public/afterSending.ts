import {
  answersIn,
  endingFor,
  filledIn,
  type Ending,
  type FormLanguage,
  type Look,
} from '../../../core/forms/index.ts';
import type { FormDocument } from '../../../core/intake/index.ts';
import { inWords, type FieldValues } from '../../../core/values/index.ts';
import { prefixFor, printEnding, type EndingFacts } from '../../../forms/index.ts';
import type { SentPart } from '../../../contract/placing.ts';
import type { Context } from '../../context.ts';
import { downloadAddress } from '../../intake/ownFiles.ts';
import { signForBrowser } from '../../intake/visitors.ts';
import type { LiveSource } from './liveSources.ts';

/** What was taken, and what it goes on with. */
export interface Outcome {
  ids: string[];
  /** Whether the same came a moment ago, from whomever. */
  cameBefore: boolean;
  source: LiveSource;
  answers: FieldValues;
  /** What is known of the visitor. */
  known: FieldValues;
  /** By which; '' for nobody in particular. */
  sign: string;
  /** Whether what they sent leads to a mail that asks them to confirm, unless they did before: which is for nobody to learn by it. */
  isAsked: boolean;
}

/** Endings as they were printed, without the address of their link, by how they look. */
const printed = new WeakMap<Look, Map<string, string>>();
/** Stands where the address of the link does. */
const MARK = 'https://link.invalid/';
/** And of what is handed out. */
const DOWNLOAD_MARK = 'https://download.invalid/';
const escaped = (url: string): string => url.replace(/&/g, '&amp;').replace(/"/g, '&quot;').replace(/</g, '&lt;');

/** The HTML of an ending: printed once, since it is the same for everybody but for the answers in the address of its link. */
function endingHtml(
  publicId: string,
  look: Look,
  language: FormLanguage,
  ending: Ending,
  answerOf: (field: string) => string,
  { downloadAt, isAsked }: EndingFacts,
): string {
  const { title, message, link, download } = ending;
  const own = printed.get(look) ?? new Map<string, string>();
  printed.set(look, own);
  const key = JSON.stringify([publicId, language, title, message, link?.label, download?.label, isAsked]);
  let html = own.get(key);
  if (html === undefined) {
    const marked = { ...ending, link: link && { ...link, url: MARK } };
    html = printEnding(prefixFor(publicId), look, language, marked, () => '', {
      downloadAt: DOWNLOAD_MARK,
      isAsked,
    }).html;
    own.set(key, html);
  }
  const linked = link ? html.replace(MARK, () => escaped(filledIn(link.url, answerOf))) : html;
  return download ? linked.replace(DOWNLOAD_MARK, () => downloadAt) : linked;
}

/** What comes after a form was sent, by what was answered. */
export function afterSending(context: Context, { ids, cameBefore, source, answers, known, sign, isAsked }: Outcome) {
  const { now } = context;
  const document = source.live as FormDocument;
  const ending = endingFor(document, { values: answers, known, now: now() });
  const answerOf = (field: string): string => inWords(answers[field]);
  // As addresses are sent: a header has no letters but Latin ones (RFC 9110, 5.5).
  const next = ending.next === '' ? null : (URL.parse(filledIn(ending.next, answerOf))?.href ?? null);
  // Whoever repeats what somebody sent is handed it as well, and not told, or counted, as theirs.
  const downloadAt = ending.download ? downloadAddress(context, cameBefore ? '' : (ids[0] ?? ''), ending.download) : '';
  const said = new URLSearchParams({
    ...(ending.id === '' ? {} : { ending: ending.id }),
    ...(isAsked && ending.message === '' ? { asked: 'yes' } : {}),
  }).toString();
  const own = `/in/${source.publicId}/thanks${said === '' ? '' : `?${said}`}`;
  return {
    ending,
    answerOf,
    facts: { downloadAt, isAsked },
    /** Whether it can only be shown in answer to what was sent: an address of ours holds no answers. */
    isOwnPage:
      next === null && (ending.download !== null || (ending.link !== null && answersIn(ending.link.url).length > 0)),
    location: next ?? own,
    /** What a script puts in the place of the form. */
    part: (language: FormLanguage): SentPart => {
      const html = endingHtml(source.publicId, document.look, language, ending, answerOf, {
        downloadAt,
        isAsked,
      });
      const visitor = cameBefore ? '' : signForBrowser(context, ids[0] ?? '', sign);
      return { html, taken: true, next, newTab: ending.newTab, seconds: ending.seconds, visitor };
    },
  };
}
