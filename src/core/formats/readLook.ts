import Color from 'colorjs.io';
import { is, selectOne } from 'css-select';
import * as csstree from 'css-tree';
import { parseDocument } from 'htmlparser2';
import { contrastOf, nearestPassing } from '../contrast/index.ts';
import { PLAIN_LOOK, type Colours, type Look } from '../forms/index.ts';

/** A look that goes with somebody's pages, and what it was read from. */
export interface FoundLook {
  look: Look;
  /** What was found, in words: "the button is #21525b". */
  found: string[];
  /** What was changed so that everybody can read it. */
  changed: string[];
}

/** Stands for a page where there is only its style: what a form is made of. */
const SAMPLE_PAGE =
  '<html><body><main><h1>A</h1><p>A <a href="#">link</a></p><form><label>A</label><input type="text"><button type="submit">Go</button></form></main></body></html>';

/** What of a page tells how it looks, the surest first. */
const BUTTONS = [
  'button[type=submit]',
  'input[type=submit]',
  'form button',
  '[class*=button]',
  '[class*=btn]',
  'button',
];
const INPUTS = ['input[type=text]', 'input[type=email]', 'input:not([type])', 'textarea', 'select'];
const LINKS = ['main a[href]', 'article a[href]', 'a[href]'];
const TEXTS = ['main p', 'article p', 'p', 'main', 'body'];

type Document = ReturnType<typeof parseDocument>;
type Element = Extract<Document['children'][number], { attribs: unknown }>;

/** One declaration of a style sheet, where it applies. */
interface Said {
  selector: string;
  property: string;
  value: string;
  /** What of two that apply counts: !important, then specificity, then order (CSS Cascading Level 4, 6.1). */
  weight: [important: number, ids: number, classes: number, types: number, order: number];
}

/**
 * Proposes a look for forms by how a page looks: its style sheets are applied to its ground, text, links, inputs and button. What its
 * scripts do, and what of styles is conditional, is not seen.
 * @param html the page; '' for its style alone
 * @param sheets the text of its style sheets, in order
 */
export function readLook(html: string, sheets: string[]): FoundLook {
  const document = parseDocument(html === '' ? SAMPLE_PAGE : html);
  const said = sheets.flatMap((sheet, at) => declarationsIn(sheet, at * 1_000_000));
  const styled = new Styled(document, said);
  const found: string[] = [];
  const note = (what: string, value: string) => {
    found.push(`${what} is ${value}`);
    return value;
  };
  const usual = PLAIN_LOOK.colours;
  const text = styled.first(TEXTS);
  const button = styled.first(BUTTONS);
  const input = styled.first(INPUTS);
  const ground = colourOf(styled.value(text, 'background-color')) ?? '#ffffff';
  const ink = colourOf(styled.value(text, 'color')) ?? usual.ink;
  const link = colourOf(styled.own(styled.first(LINKS), 'color'));
  const buttonGround = colourOf(styled.own(button, 'background-color'));
  if (said.length > 0) {
    note('the ground', ground);
    note('the text', ink);
  }
  if (buttonGround) note('the button', buttonGround);
  else if (link) note('links are taken for the button: their colour', link);
  const line = colourOf(styled.own(input, 'border-color'));
  if (line) note('the line around inputs', line);
  const radius = pixels(styled.own(button, 'border-radius') ?? styled.own(input, 'border-radius'));
  if (radius !== null) note('the roundness of corners', `${radius} px`);
  const size = pixels(styled.value(text, 'font-size'));
  if (size !== null) note('the size of type', `${size} px`);
  const wanted: Colours = {
    ...usual,
    ground,
    ink,
    action: buttonGround ?? link ?? usual.action,
    onAction: colourOf(styled.own(button, 'color')) ?? '#ffffff',
    quiet: mixed(ink, ground, 0.25),
    line: line ?? mixed(ink, ground, 0.45),
  };
  const { colours, changed } = readable(wanted);
  const look: Look = {
    ...PLAIN_LOOK,
    colours,
    font: 'site',
    radius: within(radius ?? PLAIN_LOOK.radius, 0, 40),
    size: within(size ?? PLAIN_LOOK.size, 12, 28),
  };
  return { look, found, changed };
}

/** The style sheets that a page names or holds, in order. @param address of the page, against which theirs are read */
export function sheetsOf(html: string, address: string): ({ url: string } | { css: string })[] {
  const sheets: ({ url: string } | { css: string })[] = [];
  const visit = (nodes: Document['children']) => {
    for (const node of nodes) {
      if (!('attribs' in node)) continue;
      const { name, attribs, children } = node;
      if (name === 'style') sheets.push({ css: children.map((child) => ('data' in child ? child.data : '')).join('') });
      else if (
        name === 'link' &&
        /\bstylesheet\b/i.test(attribs.rel ?? '') &&
        URL.canParse(attribs.href ?? '', address)
      )
        sheets.push({ url: new URL(attribs.href ?? '', address).href });
      visit(children);
    }
  };
  visit(parseDocument(html).children);
  return sheets;
}

/** The elements of a page with what a style says of them. */
class Styled {
  readonly #document: Document;
  readonly #said: Said[];
  readonly #variables: Map<string, string>;

  constructor(document: Document, said: Said[]) {
    this.#document = document;
    this.#said = said;
    const root = this.first(['html']);
    this.#variables = new Map(
      said
        .filter(
          ({ property, selector }) =>
            property.startsWith('--') && (selector === ':root' || (root && fits(root, selector))),
        )
        .sort(byWeight)
        .map(({ property, value }) => [property, value]),
    );
  }

  /** The first element that the first of several selectors finds. */
  first(selectors: string[]): Element | null {
    for (const selector of selectors) {
      const found = selectOne<Document['children'][number], Element>(selector, this.#document.children);
      if (found) return found;
    }
    return null;
  }

  /** What is said of a property of this very element; undefined for nothing. */
  own(element: Element | null, property: string): string | undefined {
    if (!element) return undefined;
    const applying = this.#said
      .filter((one) => one.property === property && fits(element, one.selector))
      .sort(byWeight);
    const inline = declared(element.attribs.style ?? '').findLast((one) => one.property === property)?.value;
    const value = inline ?? applying.at(-1)?.value;
    return value === undefined ? undefined : this.#resolved(value);
  }

  /** The same of the element, or of the nearest around it of which something is said. */
  value(element: Element | null, property: string): string | undefined {
    for (let at: Element | null = element; at; at = at.parent && 'attribs' in at.parent ? at.parent : null) {
      const own = this.own(at, property);
      if (own !== undefined && !(property === 'background-color' && colourOf(own) === null)) return own;
    }
    return undefined;
  }

  /** With variables put in (CSS Custom Properties Level 1), as far as the page sets them for all of it. */
  #resolved(value: string, depth = 0): string {
    if (depth > 8) return value;
    const put = value.replace(/var\(\s*(--[\w-]+)\s*(?:,([^()]*))?\)/g, (_, name: string, otherwise = '') =>
      (this.#variables.get(name) ?? String(otherwise)).trim(),
    );
    // What doubles with each variable is no colour and no length.
    return put === value || put.length > LONGEST_VALUE ? put : this.#resolved(put, depth + 1);
  }
}

const LONGEST_VALUE = 2_000;

const byWeight = (one: Said, other: Said): number => {
  const at = one.weight.findIndex((part, index) => part !== other.weight[index]);
  return at < 0 ? 0 : (one.weight[at] ?? 0) - (other.weight[at] ?? 0);
};

function fits(element: Element, selector: string): boolean {
  try {
    return is<Document['children'][number], Element>(element, selector);
  } catch {
    // A selector of a kind that is not known here names nothing.
    return false;
  }
}

/** Everything that a style sheet says for screens without further conditions. */
function declarationsIn(sheet: string, from: number): Said[] {
  const all: Said[] = [];
  let order = from;
  const tree = csstree.parse(sheet, { onParseError: () => {} });
  csstree.walk(tree, {
    visit: 'Rule',
    enter(rule) {
      const within = this.atrule;
      if (within && !(within.name === 'media' && isForScreens(within)) && within.name !== 'layer') return;
      if (rule.prelude.type !== 'SelectorList') return;
      for (const selector of rule.prelude.children)
        for (const { property, value, important } of declared(csstree.generate(rule.block).slice(1, -1))) {
          order += 1;
          const [ids, classes, types] = specificityOf(selector);
          all.push({
            selector: csstree.generate(selector),
            property,
            value,
            weight: [important ? 1 : 0, ids, classes, types, order],
          });
        }
    },
  });
  return all;
}

const isForScreens = (rule: csstree.Atrule): boolean =>
  rule.prelude !== null && /^(screen|all)$/.test(csstree.generate(rule.prelude).trim());

/** Declarations, with what their shorthands say of colours, lines and type told apart. */
function declared(block: string): { property: string; value: string; important: boolean }[] {
  const list = csstree.parse(block, { context: 'declarationList', onParseError: () => {} });
  const all: { property: string; value: string; important: boolean }[] = [];
  csstree.walk(list, {
    visit: 'Declaration',
    enter(declaration) {
      const { property } = declaration;
      const value = csstree.generate(declaration.value).trim();
      const important = declaration.important !== false;
      all.push({ property, value, important });
      const longhand = Object.hasOwn(SHORTHANDS, property) ? SHORTHANDS[property] : undefined;
      if (!longhand) return;
      const words = value.match(/[^\s(]+(?:\([^)]*\))?/g) ?? [];
      const part =
        longhand === 'font-size' ? words.find((word) => /^[\d.]+(px|rem|em)/.test(word)) : words.find(isColour);
      if (part !== undefined) all.push({ property: longhand, value: part.split('/')[0] ?? part, important });
    },
  });
  return all;
}

const SHORTHANDS: Record<string, string> = {
  background: 'background-color',
  border: 'border-color',
  'border-bottom': 'border-color',
  font: 'font-size',
};

/** How much a selector weighs (Selectors Level 4, 17): ids, classes and the like, types. */
function specificityOf(selector: csstree.CssNode): [ids: number, classes: number, types: number] {
  const sum: [number, number, number] = [0, 0, 0];
  csstree.walk(selector, ({ type }) => {
    if (type === 'IdSelector') sum[0] += 1;
    else if (type === 'ClassSelector' || type === 'AttributeSelector' || type === 'PseudoClassSelector') sum[1] += 1;
    else if (type === 'TypeSelector' || type === 'PseudoElementSelector') sum[2] += 1;
  });
  return sum;
}

const isColour = (text: string): boolean => colourOf(text) !== null || text.startsWith('var(');

/** A colour of CSS as #rrggbb; null for what is none, or lets everything through. */
function colourOf(text: string | undefined): string | null {
  if (text === undefined) return null;
  try {
    const colour = new Color(text);
    if (colour.alpha < 0.5) return null;
    return colour.to('srgb').toGamut().set('alpha', 1).toString({ format: 'hex', collapse: false });
  } catch {
    return null;
  }
}

/** A length in CSS pixels; null for what is none. A rem or em counts 16 of them. */
function pixels(text: string | undefined): number | null {
  const [, figure, unit] = /^([\d.]+)(px|rem|em)?$/.exec((text ?? '').split(' ')[0] ?? '') ?? [];
  if (figure === undefined) return null;
  return Math.round(Number(figure) * (unit === 'rem' || unit === 'em' ? 16 : 1));
}

const within = (value: number, least: number, most: number): number => Math.max(least, Math.min(most, value));

/** A colour that stands back: some of the ground in it. */
const mixed = (colour: string, ground: string, share: number): string =>
  Color.mix(new Color(colour), new Color(ground), share, { space: 'srgb' })
    .to('srgb')
    .toString({ format: 'hex', collapse: false });

const WORDS: Partial<Record<keyof Colours, string>> = {
  ink: 'the words',
  quiet: 'help',
  action: 'the button',
  onAction: 'the words on the button',
  line: 'the lines of inputs',
  wrong: 'mistakes',
};

/** The same colours, each as near as it can be and still be read (WCAG 2.2, 1.4.3 and 1.4.11). */
function readable(wanted: Colours): { colours: Colours; changed: string[] } {
  const colours = { ...wanted };
  const changed: string[] = [];
  const settle = (part: keyof Colours, behind: keyof Colours, needs: number) => {
    if (contrastOf(colours[part], colours[behind]) >= needs) return;
    const passing = nearestPassing(colours[part], colours[behind], needs);
    if (!passing) return;
    changed.push(`${WORDS[part] ?? part}: ${colours[part]} became ${passing}`);
    colours[part] = passing;
  };
  settle('ink', 'ground', 4.5);
  settle('quiet', 'ground', 4.5);
  settle('wrong', 'ground', 4.5);
  settle('line', 'ground', 3);
  settle('action', 'ground', 3);
  settle('onAction', 'action', 4.5);
  return { colours, changed };
}
