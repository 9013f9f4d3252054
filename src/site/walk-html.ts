import { parse, type DefaultTreeAdapterTypes } from 'parse5';
import { valueOf } from '../core/templates/elements.js';

type Node = DefaultTreeAdapterTypes.Node;
export type HtmlElement = DefaultTreeAdapterTypes.Element;

/** A page's text, and the tree that it stands for, with the places of all elements in the text. */
export interface ParsedPage {
  html: string;
  document: DefaultTreeAdapterTypes.Document;
}

export const parsePage = (html: string): ParsedPage => ({
  html,
  document: parse(html, { sourceCodeLocationInfo: true }),
});

export const isElement = (node: Node): node is HtmlElement => 'tagName' in node;

/**
 * The elements of a parsed page in the order of the document, what templates hold among them, each with the `picture` around it. Without
 * recursion: pages may nest more elements than a call stack holds.
 */
export function* elementsWithin(
  root: Node,
): Generator<{ element: HtmlElement; picture: HtmlElement | undefined }> {
  const open: { node: Node; picture: HtmlElement | undefined }[] = [{ node: root, picture: undefined }];
  for (let next = open.pop(); next; next = open.pop()) {
    const { node, picture } = next;
    if (isElement(node)) yield { element: node, picture };
    const inner = isElement(node) && node.tagName === 'picture' ? node : picture;
    if ('content' in node) open.push({ node: node.content, picture: undefined });
    if ('childNodes' in node)
      for (let index = node.childNodes.length - 1; index >= 0; index--) {
        const child = node.childNodes[index];
        if (child) open.push({ node: child, picture: inner });
      }
  }
}

/** What a link says that it leads to, in small letters. HTML standard, 4.6.7 "Link types". */
export const relationsOf = (element: HtmlElement): string[] =>
  (valueOf(element, 'rel') ?? '').toLowerCase().split(/\s+/);
