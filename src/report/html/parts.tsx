import type { ComponentChildren } from 'preact';
import { plainText } from '../plain-text.js';

/** Longer texts of pages are cut: nobody reads an address of a megabyte. */
const mostCharacters = 300;

/** Text of a page: what would turn or hide the text around it is shown as an escape, and it keeps its own direction. */
export function Foreign({ text, most = mostCharacters }: { text: string; most?: number }) {
  const plain = plainText(text);
  return <bdi>{plain.length > most ? `${plain.slice(0, most)}… (${plain.length} characters)` : plain}</bdi>;
}

/** A drawing that was made beforehand, with what it shows said below. */
export function Drawing({ svg, children }: { svg: string; children?: ComponentChildren }) {
  return (
    <figure class="drawing">
      <div
        class="plot"
        tabIndex={0}
        role="group"
        aria-label="plot"
        dangerouslySetInnerHTML={{ __html: svg }}
      />
      {children === undefined ? null : <figcaption>{children}</figcaption>}
    </figure>
  );
}

/** A table that scrolls sideways by itself on narrow screens. */
export function Table({
  label,
  head,
  rows,
  words = [],
}: {
  label: string;
  /** Columns of words, counted from 0, which begin at the left. */
  words?: readonly number[];
  head: readonly string[];
  rows: readonly (readonly ComponentChildren[])[];
}) {
  return (
    <div class="wide" tabIndex={0} role="region" aria-label={label}>
      <table>
        <thead>
          <tr>
            {head.map((cell, column) => (
              <th key={column} scope="col" class={words.includes(column) ? 'words' : undefined}>
                {cell}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map((row, index) => (
            <tr key={index}>
              {row.map((cell, column) =>
                column === 0 ? (
                  <th key={column} scope="row">
                    {cell}
                  </th>
                ) : (
                  <td key={column} class={words.includes(column) ? 'words' : undefined}>
                    {cell}
                  </td>
                ),
              )}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

export const fixId = (id: string) => `fix-${id.replace(/[^\w-]/g, '-')}`;
export const pageId = (path: string) => `page-${encodeURIComponent(path)}`;
