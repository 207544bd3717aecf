import * as csstree from 'css-tree';
import render from 'dom-serializer';
import { DomUtils, parseDocument } from 'htmlparser2';

type Document = ReturnType<typeof parseDocument>;
type Node = Document['children'][number];
type Element = Extract<Node, { attribs: unknown }>;

/** What holds addresses. Those of smaller and larger pictures are left out: there is one for all. */
const ADDRESSES = new Set(['src', 'href', 'poster', 'action', 'background']);

/** What is left out: it would run, load or lead elsewhere, or says what may be loaded. */
const LEFT_OUT = new Set(['script', 'noscript', 'iframe', 'object', 'embed', 'base', 'template']);

/**
 * A page as it can be shown within another one: with its style in it, its addresses whole, and without what runs.
 * @param address where it is
 * @param sheetAt the text of a style sheet at an address; '' where there is none to be had
 */
export function pageToShow(html: string, address: string, sheetAt: (url: string) => string): string {
  const document = parseDocument(html);
  const visit = (nodes: Node[]) => {
    for (const node of [...nodes]) {
      if (!('attribs' in node)) continue;
      if (LEFT_OUT.has(node.name) || isOrder(node)) {
        DomUtils.removeElement(node);
        continue;
      }
      node.attribs = Object.fromEntries(
        Object.entries(node.attribs)
          .filter(([name]) => !/^on/i.test(name) && name !== 'srcset')
          .map(([name, value]) => [
            name,
            ADDRESSES.has(name) && !value.startsWith('#') ? whole(value, address) : value,
          ]),
      );
      if (isSheet(node)) {
        const url = whole(node.attribs.href ?? '', address);
        DomUtils.replaceElement(node, styleOf(withWholeAddresses(sheetAt(url), url)));
      } else visit(node.children);
    }
  };
  visit(document.children);
  return render(document);
}

const isSheet = ({ name, attribs }: Element): boolean =>
  name === 'link' && /\bstylesheet\b/i.test(attribs.rel ?? '') && (attribs.href ?? '') !== '';

/** Whether an element orders what the browser does with the page. */
const isOrder = ({ name, attribs }: Element): boolean => name === 'meta' && 'http-equiv' in attribs;

const whole = (url: string, base: string): string => (URL.canParse(url, base) ? new URL(url, base).href : '');

/** A style element. Its text cannot end it. */
function styleOf(css: string): Element {
  const [style] = parseDocument(`<style>${css.replace(/<\/style/gi, '<\\/style')}</style>`).children;
  return style as Element;
}

/** A style sheet whose addresses do not depend on where it is. */
function withWholeAddresses(css: string, url: string): string {
  const tree = csstree.parse(css, { parseValue: true });
  csstree.walk(tree, (node) => {
    if (node.type === 'Url') node.value = whole(node.value, url);
  });
  return csstree.generate(tree);
}
