import type { PhrasingContent, RootContent, TableRow } from 'mdast';
import { gfmTableToMarkdown } from 'mdast-util-gfm-table';
import { toMarkdown } from 'mdast-util-to-markdown';
import { plainText } from './plain-text.js';

/** CommonMark 0.31 with the tables of GitHub Flavored Markdown. */
export const asMarkdown = (children: RootContent[]): string =>
  toMarkdown(
    { type: 'root', children },
    { extensions: [gfmTableToMarkdown()], bullet: '-', fences: true, rule: '-' },
  );

/** Longer texts of pages are cut. */
const mostShown = 2000;
const plain = (value: string) => {
  const shown = plainText(value);
  return shown.length > mostShown ? `${shown.slice(0, mostShown)}…` : shown;
};

/** An “@” would call somebody, “#” and a number would name somebody’s request: a joiner that nobody sees keeps them apart. */
export const text = (value: string): PhrasingContent => ({
  type: 'text',
  value: plain(value).replace(/[@#](?=\w)/g, '$&\u2060'),
});
export const code = (value: string): PhrasingContent => ({ type: 'inlineCode', value: plain(value) });
export const block = (value: string): RootContent => ({
  type: 'code',
  lang: 'html',
  value: plainText(value, true).slice(0, 4 * mostShown),
});
export const paragraph = (...children: PhrasingContent[]): RootContent & { type: 'paragraph' } => ({
  type: 'paragraph',
  children,
});
export const title = (depth: 2 | 3, ...children: PhrasingContent[]): RootContent => ({
  type: 'heading',
  depth,
  children,
});

export function table(
  head: readonly string[],
  rows: readonly (readonly (readonly PhrasingContent[])[])[],
): RootContent {
  const row = (cells: readonly (readonly PhrasingContent[])[]): TableRow => ({
    type: 'tableRow',
    children: cells.map((children) => ({ type: 'tableCell', children: [...children] })),
  });
  return { type: 'table', children: [row(head.map((cell) => [text(cell)])), ...rows.map(row)] };
}
