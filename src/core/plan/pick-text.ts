import {
  dimensionsFor,
  environmentOf,
  parseImage,
  pickImage,
  readImageMarkup,
  type Dimensions,
  type ParsedImage,
} from '../markup/index.js';
import type { Screen } from '../run/types.js';
import { asElement } from './attribute-text.js';
import { resolveAddress } from './addresses.js';
import { isForScript, type Form } from './image-state.js';
import { addressedByScript, completedByScript } from './script-image.js';
import { pickStyle } from './style-rule.js';
import { pickLink } from './link.js';
import { asCompleted, readCompleted } from './picture-for-script.js';
import { attributeOf, elementsOf } from './tag.js';

/** What a text makes one screen take. */
export interface TextPick {
  /** Address from the site's root. */
  url: string;
  /** Device px of the file per CSS px. */
  density: number;
  /** Position of the element that it comes from; 0 for texts of one element. */
  source: number;
  /** What the dimension attributes say that count for it. */
  dimensions: Dimensions | undefined;
  /** What `sizes` claims, CSS px; undefined where the file has no width descriptor. */
  claim: number | undefined;
  lazy: boolean;
}

/** A text that was read once and is picked from many times. */
export type ReadText = (screen: Screen, slotWidth: number | undefined) => TextPick | undefined;

/**
 * Reads what was written, as a browser would: the one place from which claims are read off.
 * @param base what relative addresses are resolved against
 */
export function readText(text: string, form: Form, base: string): ReadText {
  const plain = { source: 0, dimensions: undefined, claim: undefined, lazy: false };
  switch (form.kind) {
    case 'attribute': {
      const written = attributeOf(asElement(text), form.name)?.trim();
      if (written === undefined) return () => undefined;
      const addressed = isForScript(form, text) ? addressedByScript(text, written) : undefined;
      const image = addressed && parseImage(addressed);
      return (screen, slotWidth) =>
        image
          ? pickTag(image, screen, slotWidth, base)
          : { ...plain, url: resolveAddress(written, base), density: 1 };
    }
    case 'list-for-script': {
      const completed = completedByScript(text, form);
      const image = completed && parseImage(completed);
      const lazy = /^lazy$/i.test(attributeOf(text, 'loading') ?? '');
      return (screen, slotWidth) => {
        const pick = image && pickTag(image, screen, slotWidth, base);
        return pick && { ...pick, lazy };
      };
    }
    case 'link': {
      const links = elementsOf(text);
      return (screen) => {
        const picked = pickLink(links, screen);
        return picked && { ...plain, url: resolveAddress(picked.url, base), density: picked.density };
      };
    }
    case 'style':
      return (screen) => {
        const option = pickStyle(text, form, environmentOf(screen));
        return option && { ...plain, url: resolveAddress(option.url, base), density: option.density };
      };
    case 'tag': {
      const markup = form.names
        ? readCompleted(asCompleted(text, form.names), form.names)
        : readImageMarkup(text);
      const image = markup && parseImage(markup);
      return (screen, slotWidth) => image && pickTag(image, screen, slotWidth, base);
    }
  }
}

function pickTag(
  image: ParsedImage,
  screen: Screen,
  slotWidth: number | undefined,
  base: string,
): TextPick | undefined {
  const pick = pickImage(image, environmentOf(screen), { autoWidth: slotWidth });
  return (
    pick && {
      url: resolveAddress(pick.url, base),
      density: pick.density,
      source: pick.source,
      dimensions: dimensionsFor(image, pick),
      claim: pick.sourceSize,
      lazy: image.lazy,
    }
  );
}
