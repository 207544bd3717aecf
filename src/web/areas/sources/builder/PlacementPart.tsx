import { ExternalLink } from 'lucide-react';
import type { ReactNode } from 'react';
import { renderSVG } from 'uqr';
import type { SourceView } from '../../../../contract/source.ts';
import { filesOf } from '../../../../core/forms/index.ts';
import { scriptLine } from '../../../../core/showing/index.ts';
import { fontsOf } from '../../../../forms/index.ts';
import { useFormHeight } from './useFormHeight.ts';
import { InstallationCheck } from './InstallationCheck.tsx';
import { RememberedChoice, useRemembered } from '../RememberedChoice.tsx';
import { CopyButton } from '../../../parts/CopyButton.tsx';

/** Of a frame with a form whose height is not known, in CSS pixels. */
const USUAL_HEIGHT = 560;

/** How a form gets to where visitors are: the lines to paste, its own page, and what to tell whoever looks after the site. */
export function PlacementPart({ source }: { source: SourceView }) {
  const { live, postUrl, html, name } = source;
  const [remembered] = useRemembered();
  const height = useFormHeight(live?.kind === 'form' ? live : null, postUrl);
  if (live?.kind !== 'form')
    return (
      <p className="text-muted">Publish it first; then the lines to paste stand here, and its own page is open.</p>
    );
  const server = new URL(postUrl).origin;
  const id = postUrl.split('/').at(-1) ?? '';
  const script = scriptLine(server, remembered === 'everybody');
  const element = `<div data-iwashi-form="${id}"${height === 0 ? '' : ` style="min-height:${height}px"`}></div>`;
  // Visitors hear its title, which is never the name that it has among us.
  const title = (live.title || live.button).replaceAll('&', '&amp;').replaceAll('"', '&quot;');
  const frame = `<iframe src="${postUrl}" title="${title}" style="width:100%;height:${height || USUAL_HEIGHT}px;border:0"></iframe>`;
  const showsItself = live.presentation !== 'inline' || live.showing.placeAt !== '';
  const instruction = [
    `Please put our form "${live.title || name}" on the site.`,
    '',
    '1. Once, into the head of every page:',
    script,
    '',
    ...(showsItself
      ? ['That is all: the form shows itself where and when it is meant to.']
      : ['2. Where the form belongs:', element]),
    '',
    'If the site has a Content Security Policy, allow the script and where it asks:',
    [
      `script-src ${server}; connect-src ${server}; form-action ${server}`,
      ...(fontsOf(live.look).length > 0 ? [`font-src ${server}`] : []),
      ...(filesOf(live).length > 0 ? [`img-src ${server}`] : []),
    ].join('; '),
    '',
    `It looks like this: ${postUrl}`,
  ].join('\n');
  return (
    <div className="flex flex-col gap-5">
      <Part
        title="1. Once for the whole site"
        help="In the head of every page. It loads beside the page, and sets no cookie."
      >
        <Lines text={script} label="Copy the line" />
      </Part>
      <RememberedChoice />
      {showsItself ? (
        <p>The form shows itself, as set under “Show it”. No more is needed.</p>
      ) : (
        <Part
          title="2. Where the form belongs"
          help="It keeps its own look there, whatever the page's style says. The height keeps the page from jumping when the form comes."
        >
          <Lines text={element} label="Copy the element" />
        </Part>
      )}
      <div>
        <a
          className="btn btn-sm"
          href={`mailto:?subject=${encodeURIComponent(`A form for the site: ${live.title || name}`)}&body=${encodeURIComponent(instruction)}`}
        >
          Mail it to my developer
        </a>{' '}
        <CopyButton text={instruction} label="Copy what to tell them" />
      </div>
      <InstallationCheck source={source} sites={live.origins} showing={live.showing} />
      <Part
        title="As HTML, copied into the page"
        help="It works without any script. One line of script is in it, which says from which page it was sent; with the line above, visitors stay on the page. It keeps its words until it is copied again."
      >
        <Lines text={html} label="Copy the HTML" long />
      </Part>
      <Part
        title="In a frame"
        help="Where a site takes nothing but frames. It is as high as the form is as it is met; with the script on the page it grows with what is in it."
      >
        <Lines text={frame} label="Copy the frame" />
      </Part>
      <Part title="On a page of its own" help="For links, and for print.">
        <p className="break-all">
          <a className="plain-link" href={postUrl} target="_blank" rel="noreferrer">
            {postUrl} <ExternalLink size={13} className="inline" aria-label="(opens in a new window)" />
          </a>
        </p>
        <img
          className="w-36 h-36 mt-2 bg-white"
          alt={`QR code of ${postUrl}`}
          src={`data:image/svg+xml,${encodeURIComponent(renderSVG(postUrl))}`}
        />
      </Part>
      <p className="text-muted text-sm">
        The same address takes form posts and JSON, if a page already has its own form with these field names. To see on
        a page why forms show themselves or not, open it with #why-forms behind its address.
      </p>
    </div>
  );
}

function Part({ title, help, children }: { title: string; help: string; children: ReactNode }) {
  return (
    <section aria-label={title}>
      <h3 className="font-semibold">{title}</h3>
      <p className="text-muted text-sm mb-1">{help}</p>
      {children}
    </section>
  );
}

function Lines({ text, label, long = false }: { text: string; label: string; long?: boolean }) {
  return (
    <>
      <pre
        className={`bg-base-200 p-2 text-xs font-mono whitespace-pre-wrap break-words overflow-auto rounded mb-1 ${long ? 'max-h-32' : ''}`}
        tabIndex={long ? 0 : undefined}
      >
        {text}
      </pre>
      <CopyButton text={text} label={label} />
    </>
  );
}
