import { readImageMarkup, type ImageMarkup } from '../markup/index.js';
import type { ScriptAttributes } from './image-state.js';
import { attributeOf, dataAttributes } from './tag.js';

/**
 * The attributes from which a script takes a list of files, as those do that load images once they come near: `data-srcset`, or another name
 * that ends so, with the source and the sizes of the same beginning.
 */
export function listForScript(markup: string): ScriptAttributes | undefined {
  const names = dataAttributes(markup);
  const srcset = names.find((name) => /^data-([\w-]*-)?srcset$/.test(name));
  if (srcset === undefined) return undefined;
  const beginning = srcset.replace(/srcset$/, '');
  const own = (name: string) => (names.includes(beginning + name) ? beginning + name : undefined);
  return { src: own('src') ?? null, srcset, sizes: own('sizes') ?? 'sizes' };
}

/** The image as a script completes it. What it works out from the box (`data-sizes="auto"`) is that of a lazy image. */
export function completedByScript(
  markup: string,
  { src, srcset, sizes }: ScriptAttributes,
): ImageMarkup | undefined {
  const read = readImageMarkup(markup);
  const valueOf = (name: string) => attributeOf(markup, name) ?? null;
  return (
    read && {
      sources: [],
      img: {
        ...read.img,
        src: src === null ? null : valueOf(src),
        srcset: valueOf(srcset),
        sizes: valueOf(sizes),
        loading: 'lazy',
      },
    }
  );
}
