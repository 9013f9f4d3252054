import { nativeDocument } from './native.js';
import { attributesOf } from './placements.js';
import { nodeName } from './identity.js';
import { styledSides } from './sides.js';
import type { ObservedPlacement } from './protocol.js';
import { ancestorChain, uniqueSelector } from './selector.js';

/** Icons and preloaded images: what `link` elements ask for. */
export function linkedImages(): ObservedPlacement[] {
  return [...nativeDocument.querySelectorAll('link')]
    .filter(
      ({ rel, as }) => /(^|\s)icon(\s|$)/i.test(rel) || (/(^|\s)preload(\s|$)/i.test(rel) && as === 'image'),
    )
    .map((link) => ({
      kind: /preload/i.test(link.rel) ? ('preload' as const) : ('icon-link' as const),
      node: nodeName(link),
      selector: uniqueSelector(link),
      tag: 'link',
      attributes: attributesOf(link),
      sources: [],
      chain: ancestorChain(link),
      markup: link.outerHTML,
      box: null,
      seen: true,
      concealed: false,
      behind: 'nothing' as const,
      pixelated: false,
      fit: 'fill',
      ...styledSides,
      currentSrc: link.href,
      complete: true,
      naturalWidth: 0,
      naturalHeight: 0,
    }));
}
