import type { DefaultTreeAdapterTypes } from 'parse5';

export type Node = DefaultTreeAdapterTypes.Node;
export type Element = DefaultTreeAdapterTypes.Element;

const isElement = (node: Node): node is Element => 'tagName' in node;

/** Every element at or below a node that is wanted, in the order of the page. */
export function elementsIn(node: Node, wanted: (element: Element) => boolean): Element[] {
  const found: Element[] = [];
  // A stack of our own: pages of others may be nested deeper than calls can be.
  const left: Node[] = [node];
  for (let at = left.pop(); at; at = left.pop()) {
    if (isElement(at) && wanted(at)) found.push(at);
    if ('childNodes' in at)
      for (let child = at.childNodes.length - 1; child >= 0; child -= 1) left.push(at.childNodes[child] as Node);
  }
  return found;
}

/** What an attribute of an element says; '' where it has none. */
export const attribute = (element: Element, name: string): string =>
  element.attrs.find((one) => one.name === name)?.value.trim() ?? '';
export const hasAttribute = (element: Element, name: string): boolean => element.attrs.some((one) => one.name === name);

/** The nearest element above one that has a tag; null where there is none. */
export function ancestorOf(element: Element, tagName: string): Element | null {
  for (let at = element.parentNode; at; at = 'parentNode' in at ? at.parentNode : null)
    if (isElement(at) && at.tagName === tagName) return at;
  return null;
}

/** Whether an element is in another one, or is it. */
export const isWithin = (element: Element, form: Element): boolean => {
  for (let at: Node | null = element; at; at = 'parentNode' in at ? at.parentNode : null) if (at === form) return true;
  return false;
};

/** The text of an element on one line, without what stands in another one. */
export function textOf(node: Node | undefined, without?: Element): string {
  if (!node || node === without) return '';
  if (node.nodeName === '#text' && 'value' in node) return node.value.replace(/\s+/g, ' ');
  if (isElement(node) && ['script', 'style', 'select', 'option'].includes(node.tagName) && without) return '';
  const inside = 'childNodes' in node ? node.childNodes : [];
  return inside
    .map((child) => textOf(child, without))
    .join('')
    .replace(/\s+/g, ' ')
    .trim();
}
