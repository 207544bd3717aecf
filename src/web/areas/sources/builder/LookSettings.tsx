import type { ReactNode } from 'react';
import { contrastsOf, type Contrast } from '../../../../core/contrast/index.ts';
import {
  ALIGNS,
  BUTTON_WIDTHS,
  FONTS,
  LABELS,
  PLAIN_NIGHT,
  SPACINGS,
  type Colours,
  type Font,
  type Look,
} from '../../../../core/forms/index.ts';
import { FigureInput } from '../../../parts/FigureInput.tsx';
import { Labelled } from '../../../parts/Labelled.tsx';
import { TickBox } from '../../../parts/TickBox.tsx';
import { BackdropPart } from './BackdropPart.tsx';
import { ThemePart } from './ThemePart.tsx';

interface LookSettingsProps {
  look: Look;
  /** Id of the theme that it is of; '' for none. */
  theme: string;
  onTheme: (part: { theme?: string; look?: Look }) => void;
  onChange: (look: Look) => void;
  about: (pointer: string) => string | undefined;
}

const COLOUR_WORDS: [part: keyof Colours, word: string][] = [
  ['action', 'Button, links'],
  ['onAction', 'Words on the button'],
  ['hover', 'Button under the pointer'],
  ['ink', 'Words'],
  ['quiet', 'Help'],
  ['ground', 'Ground'],
  ['fade', 'Ground at its foot'],
  ['line', 'Lines of inputs'],
  ['wrong', 'Mistakes'],
];

const FONT_WORDS: Record<Font, string> = {
  site: "the page's own",
  sans: 'plain, shipped with it',
  serif: 'serif, shipped with it',
  typewriter: 'typewriter, shipped with it',
};

/** How the form looks: colours with their contrast, type, room and shape. */
export function LookSettings({ look, theme, onTheme, onChange, about }: LookSettingsProps) {
  const set = (part: Partial<Look>) => onChange({ ...look, ...part });
  return (
    <div className="flex flex-col gap-4">
      <ThemePart theme={theme} look={look} onChange={onTheme} />
      <Palette
        title="Colours"
        colours={look.colours}
        onChange={(colours) => set({ colours })}
        error={about('/look/colours')}
      >
        <TickBox
          label="Transparent background"
          checked={look.colours.ground === ''}
          onChange={(checked) => set({ colours: { ...look.colours, ground: checked ? '' : '#ffffff', fade: '' } })}
        />
      </Palette>
      <div>
        <TickBox
          label="Other colours for visitors whose device is set to dark"
          checked={look.night !== null}
          onChange={(checked) => set({ night: checked ? PLAIN_NIGHT : null })}
        />
        {look.night && (
          <div className="mt-3">
            <Palette
              title="In the dark"
              colours={look.night}
              onChange={(night) => set({ night })}
              error={about('/look/night')}
            />
          </div>
        )}
      </div>
      <div className="grid grid-cols-2 gap-3 border-t border-base-300 pt-3">
        <Choice label="Font" value={look.font} all={FONTS} words={FONT_WORDS} onChange={(font) => set({ font })} />
        <FigureInput
          label="Size of type, px"
          value={look.size}
          least={12}
          most={28}
          onChange={(size) => set({ size })}
        />
        <FigureInput
          label="Rounded corners, px"
          value={look.radius}
          least={0}
          most={40}
          onChange={(radius) => set({ radius })}
        />
        <FigureInput
          label="Width at most, px (0: all)"
          value={look.width}
          least={0}
          most={1600}
          onChange={(width) => set({ width })}
        />
        <Choice
          label="Spacing"
          value={look.spacing}
          all={SPACINGS}
          words={SPACING_WORDS}
          onChange={(spacing) => set({ spacing })}
        />
        <Choice
          label="Labels"
          value={look.labels}
          all={LABELS}
          words={LABEL_WORDS}
          onChange={(labels) => set({ labels })}
        />
        <Choice
          label="Alignment"
          value={look.align}
          all={ALIGNS}
          words={ALIGN_WORDS}
          onChange={(align) => set({ align })}
        />
        <Choice
          label="Button"
          value={look.buttonWidth}
          all={BUTTON_WIDTHS}
          words={BUTTON_WORDS}
          onChange={(buttonWidth) => set({ buttonWidth })}
        />
      </div>
      {look.labels === 'inside' && (
        <p className="text-muted text-sm">
          Labels inside vanish as people type: they forget what was asked. Take it for one or two questions at most.
        </p>
      )}
      <TickBox label="A line around the form" checked={look.framed} onChange={(checked) => set({ framed: checked })} />
      <BackdropPart look={look} onChange={(picture) => set({ picture })} error={about('/look/picture')} />
      {about('/look') && <p className="text-error font-semibold">{about('/look')}</p>}
    </div>
  );
}

const SPACING_WORDS = { close: 'little', usual: 'usual', wide: 'much' };
const LABEL_WORDS = { above: 'above', beside: 'beside, where there is room', inside: 'inside' };
const ALIGN_WORDS = { start: 'at the edge', centre: 'centred' };
const BUTTON_WORDS = { fit: 'as wide as its text', full: 'as wide as the form' };

interface PaletteProps {
  title: string;
  colours: Colours;
  onChange: (colours: Colours) => void;
  error: string | undefined;
  children?: ReactNode;
}

function Palette({ title, colours, onChange, error, children }: PaletteProps) {
  const contrasts = contrastsOf(colours);
  return (
    <fieldset className="flex flex-col gap-1.5">
      <legend className="font-semibold mb-1">{title}</legend>
      {COLOUR_WORDS.map(([part, word]) =>
        colours[part] === '' ? null : (
          <div key={part}>
            <label className="flex items-center gap-2">
              <input
                type="color"
                className="w-9 h-7 p-0 border border-base-300 rounded cursor-pointer"
                value={colours[part]}
                onChange={({ target }) => onChange({ ...colours, [part]: target.value })}
              />
              <span>{word}</span>
              <span className="ml-auto text-muted font-mono text-xs">{colours[part]}</span>
            </label>
            {contrasts
              .filter(({ what, passing, has, needs }) => what === part && (passing !== null || has < needs))
              .map((contrast) => (
                <Low
                  key={contrast.behind}
                  contrast={contrast}
                  onTake={(colour) => onChange({ ...colours, [part]: colour })}
                />
              ))}
          </div>
        ),
      )}
      {colours.ground !== '' && (
        <TickBox
          label="The ground fades into another colour"
          checked={colours.fade !== ''}
          onChange={(checked) => onChange({ ...colours, fade: checked ? colours.ground : '' })}
        />
      )}
      <TickBox
        label="Another colour of the button under the pointer"
        checked={colours.hover !== ''}
        onChange={(checked) => onChange({ ...colours, hover: checked ? colours.action : '' })}
      />
      {children}
      {error && <p className="text-error font-semibold">{error}</p>}
    </fieldset>
  );
}

const BEHIND: Partial<Record<keyof Colours, string>> = {
  ground: 'the ground',
  fade: 'the foot of the ground',
  action: 'the button',
  hover: 'the button under the pointer',
};

/** A colour that does not stand out enough, and the nearest one that does. */
function Low({
  contrast: { behind, has, needs, passing },
  onTake,
}: {
  contrast: Contrast;
  onTake: (colour: string) => void;
}) {
  return (
    <p className="text-sm text-error">
      Hard to see on {BEHIND[behind]}: {(Math.floor(has * 100) / 100).toFixed(2)} to 1, and {needs} is needed (WCAG
      2.2).{' '}
      {passing === null ? (
        'No lighter or darker one passes: change what is behind it.'
      ) : (
        <button className="plain-link" onClick={() => onTake(passing)}>
          Take{' '}
          <span
            className="inline-block w-3 h-3 border border-base-300 align-baseline"
            style={{ background: passing }}
            aria-hidden="true"
          />{' '}
          {passing}
        </button>
      )}
    </p>
  );
}

interface ChoiceProps<T extends string> {
  label: string;
  value: T;
  all: readonly T[];
  words: Record<T, string>;
  onChange: (value: T) => void;
}

function Choice<T extends string>({ label, value, all, words, onChange }: ChoiceProps<T>) {
  return (
    <Labelled label={label}>
      <select className="select select-sm w-full" value={value} onChange={({ target }) => onChange(target.value as T)}>
        {all.map((one) => (
          <option key={one} value={one}>
            {words[one]}
          </option>
        ))}
      </select>
    </Labelled>
  );
}
