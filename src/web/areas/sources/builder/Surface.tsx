import { dequal } from 'dequal';
import { useCallback, useEffect, useEffectEvent, useLayoutEffect, useRef, useState } from 'react';
import type { Printed } from '../../../../forms/index.ts';
import { branch } from '../../../../embed/branching.ts';
import { elementOf, textPlaceOf, type TextPlace } from './editableText.ts';
import { Handles, type Place } from './Handles.tsx';

export const PREVIEW_WIDTHS = { phone: 390, tablet: 768, desktop: 0 } as const;
export type PreviewWidth = keyof typeof PREVIEW_WIDTHS;

/** The share of the window's height that a frame takes at most, as its style says. */
const SHARES: [className: string, share: number][] = [
  ['pop-up', 0.8],
  ['corner', 0.7],
  ['bar', 0.45],
];
const LEAST_WINDOW = 560;
/** Around the form in its frame, and the way to close it. CSS pixels. */
const AROUND_FORM = 90;

/** The height of a window in which a frame shows the whole of its form. */
function windowFor(frame: HTMLElement): number {
  const form = frame.querySelector<HTMLElement>(':scope > [lang]');
  const share = SHARES.find(([className]) => frame.classList.contains(className))?.[1] ?? 1;
  return Math.max(LEAST_WINDOW, Math.ceil(((form?.offsetHeight ?? 0) + AROUND_FORM) / share));
}

interface SurfaceProps {
  printed: Printed;
  width: PreviewWidth;
  /** Names of the items, by their ids, for those who do not see them. */
  names: Record<string, string>;
  selected: string | null;
  /** Whether it is tried as a visitor would, rather than worked on. */
  trying: boolean;
  onSelect: (id: string | null) => void;
  textAt: (place: TextPlace) => string;
  onText: (place: TextPlace, text: string) => void;
  onMove: (id: string, to: number) => void;
  onRemove: (id: string) => void;
  /** When its button is pressed while it is tried. */
  onPress: (form: HTMLFormElement, button: HTMLElement) => void;
}

const SKELETON =
  '<!doctype html><html><head><meta charset="utf-8"><title>The form</title><style>html{background:#fff}body{margin:0;padding:24px 20px;font:16px/1.5 sans-serif}</style><style id="own"></style></head><body></body></html>';

/** The form as visitors get it, in a frame of the chosen width, with handles over it by which it is worked on. */
export function Surface(props: SurfaceProps) {
  const { printed, width, names, selected, trying, onSelect, textAt, onText, onMove, onRemove, onPress } = props;
  const press = useEffectEvent(onPress);
  const frame = useRef<HTMLIFrameElement>(null);
  const [ready, setReady] = useState(false);
  const [places, setPlaces] = useState<Place[]>([]);
  const [height, setHeight] = useState(320);
  const [writing, setWriting] = useState<TextPlace | null>(null);
  const inside = () => (ready ? (frame.current?.contentDocument ?? null) : null);

  const measure = useCallback(() => {
    const page = frame.current?.contentDocument;
    if (!page?.body) return;
    const now = [...page.querySelectorAll<HTMLElement>('[data-question], [data-block]')].map((element) => {
      const { left, top, width: wide, height: high } = element.getBoundingClientRect();
      return { id: element.dataset.question ?? element.dataset.block ?? '', left, top, width: wide, height: high };
    });
    setPlaces((before) => (dequal(before, now) ? before : now));
    const over = page.querySelector<HTMLElement>('.frame');
    setHeight(over ? windowFor(over) : Math.max(240, page.body.scrollHeight));
  }, []);

  useLayoutEffect(() => {
    const page = inside();
    if (!page) return;
    const style = page.getElementById('own');
    if (style && style.textContent !== printed.css) style.textContent = printed.css;
    const { dataset } = page.body;
    if (dataset.shown !== printed.html || dataset.trying !== String(trying)) {
      page.body.innerHTML = printed.html;
      // What comes over the page is there at once.
      page.querySelector('dialog')?.setAttribute('open', '');
      dataset.shown = printed.html;
      dataset.trying = String(trying);
      // What runs on pages of visitors, since nothing may run in the frame.
      const form = page.querySelector<HTMLElement>('[lang]');
      if (trying && form) branch(form);
    }
    measure();
  });

  useEffect(() => {
    const page = inside();
    if (!page) return;
    const observer = new ResizeObserver(measure);
    observer.observe(page.body);
    const stay = (event: Event) => event.preventDefault();
    const follow = (event: Event) => {
      const element = event.target as Element | null;
      if (element?.closest('a')) event.preventDefault();
      // In a frame in which nothing runs no form is sent: that its button is pressed is all there is to hear.
      const button = element?.closest<HTMLButtonElement>('[type=submit]');
      if (button?.form) press(button.form, button);
    };
    page.addEventListener('submit', stay);
    page.addEventListener('click', follow);
    page.addEventListener('load', measure, true);
    return () => {
      observer.disconnect();
      page.removeEventListener('submit', stay);
      page.removeEventListener('click', follow);
      page.removeEventListener('load', measure, true);
    };
    // eslint-disable-next-line react-hooks/exhaustive-deps -- the frame's page is there once, when it is ready
  }, [ready, measure]);

  /** Lets a text be written where it stands; it is kept when one leaves it. */
  const write = (place: TextPlace) => {
    const page = inside();
    const element = page && elementOf(page, place);
    if (!page || !element) return;
    setWriting(place);
    element.textContent = textAt(place);
    element.contentEditable = 'plaintext-only';
    element.style.cursor = 'text';
    element.focus();
    page.getSelection()?.selectAllChildren(element);
    let kept = true;
    const end = () => {
      element.removeEventListener('blur', end);
      element.removeEventListener('keydown', keys);
      element.removeEventListener('keyup', rests);
      // Where a line would end in a blank, browsers write one that does not break.
      const text = element.innerText.replaceAll('\u00A0', ' ');
      // Printed anew also where nothing changed, since what stands there now is not what was printed.
      page.body.dataset.shown = '';
      setWriting(null);
      if (kept) onText(place, text);
    };
    // A button is pressed by the space bar, also while its text is written: then it is a blank.
    const isSpace = (event: KeyboardEvent) => event.key === ' ' && element.tagName === 'BUTTON';
    const rests = (event: KeyboardEvent) => isSpace(event) && event.preventDefault();
    const keys = (event: KeyboardEvent) => {
      if (isSpace(event)) {
        event.preventDefault();
        const range = page.getSelection()?.getRangeAt(0);
        range?.deleteContents();
        range?.insertNode(page.createTextNode('\u00A0'));
        range?.collapse();
        return;
      }
      const isBlock = place.of === 'item' && place.part === 'text';
      if (event.key === 'Escape') kept = false;
      else if (event.key !== 'Enter' || (isBlock && !event.ctrlKey && !event.metaKey)) return;
      event.preventDefault();
      event.stopPropagation();
      element.blur();
    };
    element.addEventListener('blur', end);
    element.addEventListener('keydown', keys);
    element.addEventListener('keyup', rests);
  };

  /** A click on the frame: selects what is there, and writes its text where it was clicked. */
  const click = (x: number, y: number) => {
    const element = inside()?.elementFromPoint(x, y);
    if (!element) {
      onSelect(null);
      return;
    }
    const item = element.closest<HTMLElement>('[data-question], [data-block]');
    onSelect(item?.dataset.question ?? item?.dataset.block ?? null);
    const place = textPlaceOf(element);
    if (place) write(place);
  };

  const wide = PREVIEW_WIDTHS[width];
  return (
    <div className="overflow-x-auto bg-base-200 p-4">
      <div
        className="relative mx-auto bg-white border border-base-300"
        style={{ width: wide === 0 ? '100%' : wide, height }}
      >
        <iframe
          ref={frame}
          title="The form as visitors see it"
          className="w-full h-full"
          sandbox="allow-same-origin"
          srcDoc={SKELETON}
          onLoad={() => setReady(true)}
        />
        {!trying && (
          <Handles
            places={places}
            names={names}
            selected={selected}
            hidden={writing !== null}
            onClick={click}
            onSelect={onSelect}
            onMove={onMove}
            onRemove={onRemove}
          />
        )}
      </div>
    </div>
  );
}
