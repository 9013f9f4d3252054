import { readImageMarkup, type ImageMarkup } from '../markup/index.js';
import type { ScriptAttributes } from './image-state.js';
import { attributeOf } from './tag.js';

/**
 * The attributes from which a script takes a list of files, as those do that load images once they come near: `data-srcset`, or another name
 * that ends so, with the source and the sizes of the same beginning.
 */
export function listForScript(attributes: ReadonlyMap<string, string>): ScriptAttributes | undefined {
  const srcset = [...attributes.keys()].find((name) => /^data-([\w-]*-)?srcset$/.test(name));
  if (srcset === undefined) return undefined;
  const beginning = srcset.replace(/srcset$/, '');
  const own = (name: string) => (attributes.has(beginning + name) ? beginning + name : undefined);
  return { src: own('src') ?? null, srcset, sizes: own('sizes') ?? 'sizes' };
}

/** An `img` as a script completes it that takes its address from one attribute. */
export function addressedByScript(markup: string, address: string): ImageMarkup | undefined {
  const read = readImageMarkup(markup);
  return read && { sources: [], img: { ...read.img, src: address, srcset: null, sizes: null } };
}

/** The image as a script completes it that takes a list. What it works out from the box (`data-sizes="auto"`) is that of a lazy image. */
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
        sizes: valueOf(sizes) ?? valueOf('sizes'),
        loading: 'lazy',
      },
    }
  );
}
