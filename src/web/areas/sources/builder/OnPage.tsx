import { useEffect, useRef, useState, type SubmitEvent } from 'react';
import { fitsPattern } from '../../../../core/showing/index.ts';
import type { FormDocument } from '../../../../core/intake/index.ts';
import { HOST_CSS, type Printed } from '../../../../forms/index.ts';
import { usePagesOf, useShowPage } from '../../../data/sources.ts';
import { ActionError } from '../../../parts/States.tsx';
import { PREVIEW_WIDTHS, type PreviewWidth } from './Surface.tsx';

interface OnPageProps {
  sourceId: string;
  /** The form's public address. */
  address: string;
  printed: Printed;
  document: FormDocument;
  width: PreviewWidth;
}

/** So much of the page is seen above the form, in CSS pixels. */
const ABOVE = 120;

/** Where a form stands on a page, in words; and the element that it is put before, behind or into. */
interface Stand {
  words: string;
  put: (host: HTMLElement) => void;
}

/** The form on a page of the web as it is now: where it would stand, and how it goes with what is around it. */
export function OnPage({ sourceId, address, printed, document: form, width }: OnPageProps) {
  const pages = usePagesOf(sourceId).data ?? [];
  const show = useShowPage();
  const frame = useRef<HTMLIFrameElement>(null);
  const [ready, setReady] = useState(0);
  const [stands, setStands] = useState('');
  const shownAt = show.variables ?? '';
  const open = (event: SubmitEvent<HTMLFormElement>) => {
    event.preventDefault();
    const url = new FormData(event.currentTarget).get('url');
    if (typeof url === 'string') show.mutate(url);
  };
  useEffect(() => {
    const page = frame.current?.contentDocument;
    if (!page?.body || ready === 0) return;
    page.querySelector('[data-shown-form]')?.remove();
    const host = page.createElement('div');
    host.dataset.shownForm = '';
    const shadow = host.attachShadow({ mode: 'open' });
    // Fonts count for a whole page; the rest stays in the form.
    shadow.innerHTML = `<style>${HOST_CSS}\n${printed.css}</style>${printed.html}`;
    shadow.querySelector('dialog')?.setAttribute('open', '');
    const { words, put } = standOn(page, form, address, shownAt);
    put(host);
    // Only the page in the frame is moved, not what is around it.
    const view = page.defaultView;
    if (view && form.presentation === 'inline')
      view.scrollTo(0, host.getBoundingClientRect().top + view.scrollY - ABOVE);
    setStands(words);
  }, [ready, printed, form, address, shownAt]);
  const wide = PREVIEW_WIDTHS[width];
  return (
    <div className="bg-base-200 p-4 flex flex-col gap-3">
      <form className="flex flex-wrap gap-2" onSubmit={open}>
        <input
          name="url"
          type="url"
          required
          className="input input-sm flex-1 min-w-60"
          aria-label="Address of the page"
          placeholder="https://"
          list="pages-of"
          defaultValue={pages[0] ?? ''}
          key={pages[0] ?? ''}
        />
        <datalist id="pages-of">
          {pages.map((page) => (
            <option key={page} value={page} />
          ))}
        </datalist>
        <button className="btn btn-sm btn-primary" disabled={show.isPending}>
          {show.isPending ? 'Reading it' : 'Show it there'}
        </button>
      </form>
      <ActionError error={show.error} />
      {show.data && (
        <>
          <p className="text-sm text-muted" role="status">
            {stands} The page is read anew each time, and none of its scripts run here.
          </p>
          <div className="overflow-x-auto">
            <iframe
              ref={frame}
              title="The form on that page"
              className="bg-white border border-base-300 mx-auto block h-[70vh]"
              style={{ width: wide === 0 ? '100%' : wide }}
              sandbox="allow-same-origin"
              srcDoc={show.data.html}
              onLoad={() => setReady((before) => before + 1)}
            />
          </div>
        </>
      )}
    </div>
  );
}

/** Where a form would stand on a page. */
function standOn(page: Document, { presentation, showing }: FormDocument, address: string, pageAddress: string): Stand {
  const name = address.split('/').at(-1) ?? '';
  if (presentation !== 'inline')
    return { words: 'It comes over the page when its time has come.', put: (host) => page.body.append(host) };
  const place = page.querySelector(`[data-iwashi-form="${CSS.escape(name)}"]`);
  if (place) return { words: 'It stands where the page has its element.', put: (host) => place.replaceChildren(host) };
  const beside = showing.placeAt === '' ? null : query(page, showing.placeAt);
  const isMeant =
    (showing.pages.length === 0 || showing.pages.some((one) => fitsPattern(one, pageAddress))) &&
    !showing.notPages.some((one) => fitsPattern(one, pageAddress));
  if (beside)
    return {
      words: isMeant
        ? 'It stands where its rule puts it.'
        : 'Its rule would put it here, but the patterns of pages leave this page out.',
      put: (host) => (showing.placeSide === 'before' ? beside.before(host) : beside.after(host)),
    };
  return {
    words: 'The page has no place for it yet: it is shown at the end of what the page says.',
    put: (host) => (page.querySelector('main') ?? page.body).append(host),
  };
}

function query(page: Document, selector: string): Element | null {
  try {
    return page.querySelector(selector);
  } catch {
    return null;
  }
}
