import { decoded } from '../core/markup/decoded.js';
import { copiesSource, writesSource, writtenSources } from '../core/markup/script-written-sources.js';
import { groupBy } from '../core/grouping.js';
import type { Measurement, WrittenImage } from './in-page/protocol.js';
import type { MeasuredPage } from './measured-page.js';

/** A page has more such images only where tools made it; each is looked for in all scripts. */
const mostSought = 200;

/** Where the file of an image shows that a script takes for others. */
export type Receivers = Omit<WrittenImage, 'node'>;

export interface WrittenImages {
  /** Images whose `src` a script of the page writes or copies, by node. */
  addressed: Map<string, Receivers>;
  /** Nodes of the images that show the same file as another one which no script names by itself: where a script made one of them, it took the address. */
  sharing: Set<string>;
}

/**
 * Images whose `src` a script of the page writes or copies. Those whose file a script names by itself have no receivers: what shows such a file elsewhere
 * does not follow the image.
 */
export async function findWrittenImages(
  page: MeasuredPage,
  scripts: readonly string[],
  { placements }: Measurement,
): Promise<WrittenImages> {
  const selectors = [...new Set(scripts.flatMap(writtenSources))];
  const write = scripts.some(writesSource);
  const found = await page.call('writtenImages', { selectors, write, copy: scripts.some(copiesSource) });
  const images = placements.filter(({ tag, currentSrc }) => tag === 'img' && /^https?:/i.test(currentSrc));
  const urls = new Map(images.map(({ node, currentSrc }) => [node, currentSrc]));
  const known = new Map<string, boolean>();
  const isNamed = (url: string) => {
    const named = known.get(url) ?? (known.size >= mostSought || isNamedIn(scripts, url));
    known.set(url, named);
    return named;
  };
  const addressed = found.map(({ node, receivers, enlarged }) => {
    const isLost = receivers.length === 0 || isNamed(urls.get(node) ?? '');
    return [node, { receivers: isLost ? [] : receivers, enlarged }] as const;
  });
  const shared = [...groupBy(images, ({ currentSrc }) => currentSrc)].filter(
    ([url, own]) => own.length > 1 && scripts.length > 0 && !isNamed(url),
  );
  return {
    addressed: new Map(addressed),
    sharing: new Set(shared.flatMap(([, own]) => own.map(({ node }) => node))),
  };
}

/** Whether a text holds the name of a file, as it stands in the address or as people write it. Every text holds that of none. */
function isNamedIn(texts: readonly string[], url: string): boolean {
  const name = /([^/?#]*)(?:[?#].*)?$/s.exec(url)?.[1] ?? '';
  const plain = decoded(name);
  return texts.some((text) => text.includes(name) || text.includes(plain));
}
