import type { Colours, Font, Look } from '../core/forms/index.ts';

const FAMILIES: Record<Font, string> = {
  site: 'inherit',
  sans: "'Source Sans 3 Variable',system-ui,sans-serif",
  serif: "'Source Serif 4 Variable',Georgia,serif",
  typewriter: "'Source Code Pro',ui-monospace,monospace",
};

const ROOM = { close: 0.75, usual: 1.15, wide: 1.7 };

/**
 * The style of a form, for any page: nothing of it touches anything outside the form, and whatever the page says of inputs
 * in general is said again here.
 * @param root a selector of the form's outermost element
 */
export function printCss(look: Look, root: string): string {
  const { colours, night, font, size, radius, width, spacing, labels, align, buttonWidth, framed, picture } = look;
  const room = ROOM[spacing];
  const rule = (selectors: string, said: string) =>
    `${selectors
      .split(',')
      .map((one) => (one === '' ? root : `${root} ${one}`))
      .join(',')}{${said}}`;
  const centred = align === 'centre';
  return [
    `${root}{${variables(look, colours)}box-sizing:border-box;position:relative;max-width:${width === 0 ? 'none' : `${width}px`};${centred ? 'margin-inline:auto;text-align:center;' : 'text-align:start;'}font-family:${FAMILIES[font]};font-size:${size}px;line-height:1.5;color:var(--ink);background:${backgroundOf(look)};${framed ? `border:1px solid var(--line);border-radius:${radius}px;` : ''}${framed ? 'padding:1.5em' : colours.ground === '' && picture === null ? 'padding:0' : 'padding:1em'}}`,
    ...(night === null
      ? []
      : [`@media (prefers-color-scheme:dark){${root}{${variables(look, night)}color-scheme:dark}}`]),
    rule('*', 'box-sizing:border-box'),
    rule('form,.fields', 'margin:0;padding:0;border:0;background:none;max-width:none;width:auto;box-shadow:none'),
    rule('.fields', `display:flex;flex-wrap:wrap;gap:${room}em 1em`),
    rule('.fields>*', 'flex:1 1 100%;min-width:0;margin:0;padding:0;border:0'),
    rule('.fields>.half', 'flex:1 1 calc(50% - 1em);min-width:min(12em,100%)'),
    rule('.fields>.third', 'flex:1 1 calc(33% - 1em);min-width:min(9em,100%)'),
    rule('h2,h3', 'font:inherit;font-weight:700;line-height:1.25;margin:0;color:inherit'),
    rule('h2', 'font-size:1.5em;margin:0 0 .6em'),
    rule('h3', 'font-size:1.15em'),
    rule('p', 'margin:0 0 .6em;color:inherit'),
    rule('p:last-child', 'margin-bottom:0'),
    rule('img', 'display:block;max-width:100%;height:auto'),
    rule('hr', 'border:0;border-top:1px solid var(--line)'),
    rule(
      'label,legend',
      `display:block;float:none;width:auto;font:inherit;font-weight:600;margin:0 0 .3em;padding:0;color:inherit${centred ? '' : ';text-align:start'}`,
    ),
    rule('.optional', 'font-weight:400;color:var(--quiet)'),
    ...(labels === 'beside'
      ? [
          `@media (min-width:34em){${rule('.entered', 'display:grid;grid-template-columns:minmax(7em,1fr) 2fr;column-gap:1em;align-items:baseline')}${rule('.entered>:not(label)', 'grid-column:2')}${rule('.entered>label', 'grid-column:1;margin:0')}}`,
        ]
      : []),
    rule(
      'input[type],select,textarea',
      `display:block;width:100%;min-height:2.75em;margin:0;padding:.55em .7em;font:inherit;text-align:start;color:inherit;background:var(--ground);border:1px solid var(--line);border-radius:${radius}px;box-shadow:none`,
    ),
    rule(
      'input[type=checkbox],input[type=radio]',
      'display:inline-block;flex:none;width:1.15em;height:1.15em;min-height:0;margin:0;padding:0;accent-color:var(--action);transform:translateY(.15em)',
    ),
    rule('input[type=file]', 'padding:.45em'),
    rule(
      '.option',
      `display:flex;gap:.6em;align-items:baseline;min-height:1.75em;margin:0;padding:.2em 0;font-weight:400;cursor:pointer;${centred ? 'justify-content:center' : ''}`,
    ),
    rule('.options', 'display:block'),
    rule('.pressed', `display:flex;flex-wrap:wrap;gap:.5em;${centred ? 'justify-content:center' : ''}`),
    rule(
      '.pressed label',
      `position:relative;display:block;margin:0;padding:.5em 1em;min-height:2.75em;font-weight:400;border:1px solid var(--line);border-radius:${radius}px;cursor:pointer`,
    ),
    rule(
      '.pressed input[type]',
      'position:absolute;inset:0;width:100%;height:100%;opacity:0;transform:none;cursor:pointer',
    ),
    rule('.pressed label:has(:checked)', 'background:var(--action);color:var(--on-action);border-color:var(--action)'),
    rule('.pressed label:has(:focus-visible)', 'outline:3px solid var(--action);outline-offset:2px'),
    rule('.pictures label', 'width:min(10em,100%);padding:.4em;text-align:center'),
    rule(
      '.pictures img',
      `width:100%;aspect-ratio:4/3;object-fit:cover;border-radius:${Math.max(0, radius - 2)}px;margin:0 0 .3em`,
    ),
    rule('.pressed.stars', 'gap:0'),
    rule('.stars label', 'border:0;padding:.2em;font-size:1.6em;line-height:1;color:var(--line)'),
    rule('.stars label:has(:checked),.stars label:has(~ label :checked)', 'background:none;color:var(--action)'),
    rule(
      '.ends',
      'display:flex;justify-content:space-between;gap:1em;color:var(--quiet);font-size:.9em;margin:.2em 0 0',
    ),
    rule('.part', 'margin:.4em 0 .6em'),
    rule('.part label', 'font-weight:400'),
    rule('table', 'width:100%;border-collapse:collapse'),
    rule('th,td', 'text-align:start;padding:.15em .3em .15em 0;font-weight:400;border:0'),
    // As particular as what is said of every input, and after it.
    rule(
      'input[type][aria-invalid=true],select[aria-invalid=true],textarea[aria-invalid=true],[aria-invalid=true]',
      'border:2px solid var(--wrong)',
    ),
    rule('.wrong', 'color:var(--wrong);margin:.35em 0 0;font-weight:600'),
    rule('.help', 'color:var(--quiet);margin:.35em 0 0;font-size:.9em'),
    rule(
      '.summary',
      'border-inline-start:4px solid var(--wrong);padding:.2em 0 .2em 1em;margin:0 0 1.2em;text-align:start',
    ),
    rule('.summary ul', 'margin:.3em 0 0;padding-inline-start:1.1em'),
    rule('.said,.statement', 'margin:1em 0 0'),
    rule(
      '.after',
      `display:flex;flex-wrap:wrap;gap:.75em;align-items:center;margin:${room}em 0 0;${centred ? 'justify-content:center' : ''}`,
    ),
    rule(
      'button',
      `display:inline-block;width:${buttonWidth === 'full' ? '100%' : 'auto'};min-height:2.75em;margin:0;padding:.6em 1.4em;font:inherit;font-weight:600;text-transform:none;letter-spacing:normal;color:var(--on-action);background:var(--action);border:0;border-radius:${radius}px;box-shadow:none;cursor:pointer`,
    ),
    rule(
      'button:not([type=reset],[name],[data-go=back],[data-go=meant]):hover,.go:hover',
      colours.hover === '' ? 'filter:brightness(1.12)' : 'background:var(--hover)',
    ),
    rule(
      '.go',
      `display:inline-block;min-height:2.75em;padding:.6em 1.4em;font-weight:600;text-decoration:none;color:var(--on-action);background:var(--action);border-radius:${radius}px`,
    ),
    rule('button:disabled', 'opacity:.6;cursor:progress'),
    rule(
      'button[type=reset],button[name],button[data-go=back],button[data-go=meant]',
      'width:auto;padding-inline:.3em;color:var(--ink);background:none;text-decoration:underline',
    ),
    rule('button[data-go=meant]', 'min-height:1.5em;padding:0 .2em'),
    rule('.fields+.fields', `margin-top:${2 * room}em`),
    rule('.fields[hidden]+.fields', 'margin-top:0'),
    rule('.progress', 'display:flex;gap:.75em;align-items:center;margin:0 0 1em;color:var(--quiet);font-size:.9em'),
    rule('progress', 'flex:1 1 auto;max-width:14em;height:.5em;accent-color:var(--action)'),
    rule('a', 'color:var(--action)'),
    rule(':focus-visible', 'outline:3px solid var(--action);outline-offset:2px'),
    rule('[hidden]', 'display:none'),
  ].join('\n');
}

const NAMES: Record<keyof Colours, string> = {
  action: '--action',
  onAction: '--on-action',
  ink: '--ink',
  quiet: '--quiet',
  ground: '--ground',
  line: '--line',
  wrong: '--wrong',
  fade: '--fade',
  hover: '--hover',
};

/** Nothing that a page says of everything reaches a form in a shadow, but its font where the form asks for that. */
export const HOST_CSS = ':host{all:initial!important;display:block!important;font-family:inherit!important}';

/** What lies behind a form. It goes by the variables of its colours. */
export const backgroundOf = ({ colours, picture }: Look): string => {
  const ground = colours.fade === '' ? 'var(--ground)' : 'linear-gradient(var(--ground),var(--fade))';
  return picture === null
    ? ground
    : `linear-gradient(var(--veil),var(--veil)),url("${encodeURI(decoded(picture.url))}") center/cover,var(--ground)`;
};

/** An address may be encoded already; what can be none of it stays as it is. */
function decoded(url: string): string {
  try {
    return decodeURI(url);
  } catch {
    return url;
  }
}

/** A colour that lets through, as CSS has it. @param percent of the colour itself */
const through = (colour: string, percent: number): string =>
  `${colour}${Math.round((percent / 100) * 255)
    .toString(16)
    .padStart(2, '0')}`;

/** What is only said where there is any. */
const MAYBE = new Set(['fade', 'hover']);

/** The colours of a form as variables of its style, and what of its ground lies over its picture. */
export const variables = ({ picture }: Pick<Look, 'picture'>, colours: Colours): string =>
  (picture === null ? '' : `--veil:${through(colours.ground || '#ffffff', picture.veil)};`) +
  Object.entries(NAMES)
    .filter(([part]) => !MAYBE.has(part) || colours[part as keyof Colours] !== '')
    .map(([part, name]) => `${name}:${colours[part as keyof Colours] || 'transparent'};`)
    .join('');
