import { copiesSource, writesSource, writtenSources } from '../core/markup/script-written-sources.js';
import type { Measurement, WrittenImage } from './in-page/protocol.js';
import type { MeasuredPage } from './measured-page.js';

/** A page has more such images only where tools made it; each is looked for in all scripts. */
const mostSought = 200;

/** Where the file of an image shows that a script takes for others. */
export type Receivers = Omit<WrittenImage, 'node'>;

/**
 * Images whose `src` a script of the page writes or copies, by node. Those whose file a script names by itself have no receivers: what shows such a file
 * elsewhere does not follow the image.
 */
export async function findWrittenImages(
  page: MeasuredPage,
  scripts: readonly string[],
  { placements }: Measurement,
): Promise<Map<string, Receivers>> {
  const selectors = [...new Set(scripts.flatMap(writtenSources))];
  const write = scripts.some(writesSource);
  const found = await page.call('writtenImages', { selectors, write, copy: scripts.some(copiesSource) });
  const names = new Map(placements.map(({ node, currentSrc }) => [node, fileNameOf(currentSrc)]));
  let sought = 0;
  const isNamed = (node: string) => {
    const name = names.get(node) ?? '';
    return name === '' || ++sought > mostSought || scripts.some((text) => text.includes(name));
  };
  return new Map(
    found.map(({ node, receivers, enlarged }) => [
      node,
      { receivers: receivers.length === 0 || isNamed(node) ? [] : receivers, enlarged },
    ]),
  );
}

const fileNameOf = (url: string) => /([^/?#]*)(?:[?#].*)?$/s.exec(url)?.[1] ?? '';
