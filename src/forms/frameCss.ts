import type { Look } from '../core/forms/index.ts';
import { backgroundOf, variables } from './css.ts';
import type { Presentation } from '../core/showing/index.ts';

/**
 * The style of what a form comes in. On a phone nothing covers the whole window but what is meant to.
 * @param frame a selector of the frame
 * @param root a selector of the form in it
 */
export function printFrameCss(
  look: Look,
  presentation: Exclude<Presentation, 'inline'>,
  frame: string,
  root: string,
): string {
  const { colours, night, radius, width } = look;
  const wide = width === 0 ? 544 : width;
  /** What comes over a page has a ground of its own. */
  const solid = (of: Look['colours']): Look['colours'] => ({ ...of, ground: of.ground || '#ffffff' });
  const rounded = Math.max(radius, 2);
  const places: Record<typeof presentation, string> = {
    'pop-up': `inset:0;margin:auto;width:min(${wide}px,calc(100vw - 2rem));height:fit-content;max-height:min(80vh,calc(100vh - 6rem));border-radius:${rounded}px`,
    page: 'inset:0;margin:0;width:100vw;max-width:none;height:100vh;max-height:none',
    bar: 'left:0;right:0;max-height:45vh',
    corner: `right:1rem;width:min(24rem,calc(100vw - 2rem));max-height:70vh;border-radius:${rounded}px`,
  };
  const inner = presentation === 'page' ? 'padding:4rem 1.25rem 2rem' : 'padding:1.25rem 1.25rem 1.25rem';
  return [
    `${frame}{box-sizing:border-box;position:fixed;z-index:2147483000;${places[presentation]};overflow:auto;overscroll-behavior:contain;border:0;${inner};${variables(look, solid(colours))}color:var(--ink);background:${backgroundOf(look)};box-shadow:0 .25rem 2rem rgb(0 0 0/.3);font-size:${look.size}px}`,
    `dialog${frame}:not([open]){display:none}`,
    `${frame}::backdrop{background:rgb(0 0 0/.45)}`,
    ...(night ? [`@media (prefers-color-scheme:dark){${frame}{${variables(look, solid(night))}}}`] : []),
    `${frame} .close{position:sticky;float:right;top:0;z-index:1;box-sizing:border-box;width:2.75rem;height:2.75rem;margin:-.75rem -.75rem 0 .5rem;padding:0;font:inherit;font-size:1.6rem;line-height:1;color:inherit;background:var(--ground);border:0;border-radius:${rounded}px;cursor:pointer}`,
    `${frame} .close:focus-visible{outline:3px solid currentColor;outline-offset:-3px}`,
    `${frame} ${root}{background:none;padding:0;border:0;max-width:none${presentation === 'page' ? `;max-width:${wide}px;margin-inline:auto` : ''}}`,
    ...(presentation === 'bar' || presentation === 'corner'
      ? [
          `${frame}.top{top:${presentation === 'bar' ? 0 : '1rem'}}`,
          `${frame}.bottom{bottom:${presentation === 'bar' ? 0 : '1rem'}}`,
        ]
      : []),
    ...(presentation === 'bar'
      ? [
          `@media (min-width:48em){${frame} ${root}{max-width:72rem;margin-inline:auto}${frame} ${root} form{display:flex;gap:1rem;align-items:end}${frame} ${root} .fields{flex:1;flex-wrap:nowrap;align-items:end}${frame} ${root} .after{margin:0}}`,
        ]
      : []),
    `@keyframes visitor-fade{from{opacity:0}}@keyframes visitor-slide{from{opacity:0;transform:translateY(2rem)}}`,
    `@media (prefers-reduced-motion:no-preference){${frame}.fade{animation:visitor-fade .25s}${frame}.slide{animation:visitor-slide .3s}}`,
  ].join('\n');
}
