import { useEffect, useState } from 'react';
import type { FormDocument } from '../../../../core/intake/index.ts';
import { languageOf } from '../../../../forms/index.ts';
import { printState } from './previewStates.ts';

/** As wide as most sites have what they say. */
const USUAL_WIDTH = 720;

/** How high a form is on a page, in CSS pixels; 0 while that is not known, or where it stands in no page. @param address its public address */
export function useFormHeight(form: FormDocument | null, address: string): number {
  const [height, setHeight] = useState(0);
  useEffect(() => {
    if (form?.presentation !== 'inline') return undefined;
    const { html, css } = printState(form, address, languageOf(form, ''), 'empty');
    const frame = document.createElement('iframe');
    frame.setAttribute('sandbox', 'allow-same-origin');
    frame.setAttribute('aria-hidden', 'true');
    frame.tabIndex = -1;
    frame.style.cssText = `position:fixed;left:-9999px;top:0;width:${USUAL_WIDTH}px;height:10px;visibility:hidden`;
    frame.srcdoc = `<!doctype html><title>-</title><style>html{font:16px/1.5 sans-serif}body{margin:0}${css}</style>${html}`;
    frame.onload = () => {
      const body = frame.contentDocument?.body;
      setHeight(body ? Math.round(body.getBoundingClientRect().height) : 0);
      frame.remove();
    };
    document.body.append(frame);
    return () => frame.remove();
  }, [form, address]);
  return height;
}
