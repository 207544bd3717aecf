import type { PlacedForm } from '../contract/placing.ts';
import type { RuleResult, ShowingRule } from '../core/showing/index.ts';

/** With this behind an address, the page says of each form why it is shown or not. */
export const WHY = '#why-forms';

const WORDS: Record<ShowingRule, string> = {
  trigger: 'What shows it',
  place: 'Its place',
  pages: 'Page',
  referrer: 'Came from',
  campaign: 'Campaign',
  visitor: 'Visitor',
  device: 'Device',
  again: 'Not too often',
  closed: 'Closed before',
  sent: 'Sent before',
  other: 'Another chat',
};

const HOW: Record<PlacedForm['presentation'], string> = {
  inline: 'in the page',
  'pop-up': 'over the page',
  page: 'the whole page',
  corner: 'in a corner',
  bar: 'a bar',
  chat: 'a chat',
};

const LOOK_MS = 1_000;

/** A panel for whoever placed the forms: each rule of each form with its present value. */
export function sayWhy(
  forms: PlacedForm[],
  judge: (form: PlacedForm) => RuleResult[],
  isHere: (form: PlacedForm) => boolean,
): void {
  const host = document.createElement('div');
  const shadow = host.attachShadow({ mode: 'open' });
  const panel = document.createElement('section');
  panel.setAttribute('aria-label', 'Why forms are shown here, or not');
  panel.style.cssText =
    'position:fixed;left:1rem;bottom:1rem;z-index:2147483001;max-width:22rem;max-height:60vh;overflow:auto;padding:1rem;font:14px/1.4 system-ui,sans-serif;color:#14242e;background:#f7f9fa;border:1px solid #4a5b66';
  shadow.append(panel);
  document.body.append(host);
  const line = (text: string, bold = false) => {
    const element = document.createElement('div');
    element.textContent = text;
    if (bold) element.style.fontWeight = '700';
    return element;
  };
  const look = () => {
    const lines = forms.flatMap((form) => {
      const judged = judge(form);
      const shown = judged.every(({ holds }) => holds);
      return [
        line(
          `${form.title} (${HOW[form.presentation]}): ${isHere(form) ? 'is shown' : shown ? 'would be shown now' : 'not shown'}`,
          true,
        ),
        ...judged.map(({ rule, holds, now }) => line(`${holds ? '✓' : '✗'} ${WORDS[rule]}: ${now}`)),
      ];
    });
    panel.replaceChildren(...(lines.length === 0 ? [line('No form shows itself on this site.')] : lines));
  };
  look();
  setInterval(look, LOOK_MS);
}
