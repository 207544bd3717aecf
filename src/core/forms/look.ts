/** The colours of a form, as #rrggbb; a ground of '' lets through what is behind the form. */
export interface Colours {
  /** Buttons, links, marks of what is chosen. */
  action: string;
  onAction: string;
  ink: string;
  /** Help and other words that stand back. */
  quiet: string;
  ground: string;
  /** Around what is filled in. */
  line: string;
  wrong: string;
  /** Into which the ground fades towards its foot; '' for none. */
  fade: string;
  /** Of buttons under the pointer; '' for a little lighter. */
  hover: string;
}

export const FONTS = ['site', 'sans', 'serif', 'typewriter'] as const;
export type Font = (typeof FONTS)[number];
export const SPACINGS = ['close', 'usual', 'wide'] as const;
export const LABELS = ['above', 'beside', 'inside'] as const;
export const ALIGNS = ['start', 'centre'] as const;
export const BUTTON_WIDTHS = ['fit', 'full'] as const;

/** How a form looks. Lengths are CSS pixels. */
export interface Look {
  colours: Colours;
  /** Those for visitors who have their device in the dark; null: the same. */
  night: Colours | null;
  font: Font;
  size: number;
  radius: number;
  /** At most; 0: all there is. */
  width: number;
  spacing: (typeof SPACINGS)[number];
  labels: (typeof LABELS)[number];
  align: (typeof ALIGNS)[number];
  buttonWidth: (typeof BUTTON_WIDTHS)[number];
  /** A line around the whole form. */
  framed: boolean;
  /** A picture behind the form; null for none. */
  picture: Backdrop | null;
}

/** A picture behind a form. */
export interface Backdrop {
  url: string;
  /** How much of the ground lies over it, in percent: what is written on it has to be read. */
  veil: number;
}

const DAY: Colours = {
  action: '#21525b',
  onAction: '#ffffff',
  ink: '#1d2529',
  quiet: '#4c585e',
  ground: '#ffffff',
  line: '#77848b',
  wrong: '#a11b1b',
  fade: '',
  hover: '',
};

/** What those become at night, until somebody chooses others. */
export const PLAIN_NIGHT: Colours = {
  action: '#9fd3dc',
  onAction: '#0c2226',
  ink: '#e8edef',
  quiet: '#b0bbc0',
  ground: '#14191c',
  line: '#7d8b92',
  wrong: '#ffa4a4',
  fade: '',
  hover: '',
};

/** What a form looks like before anybody chose anything. */
export const PLAIN_LOOK: Look = {
  colours: DAY,
  night: null,
  font: 'site',
  size: 16,
  radius: 4,
  width: 544,
  spacing: 'usual',
  labels: 'above',
  align: 'start',
  buttonWidth: 'fit',
  framed: false,
  picture: null,
};
