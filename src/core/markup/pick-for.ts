import type { Screen } from '../run/types.js';
import type { ChoiceStrategy } from './density-choice.js';
import { readImageMarkup } from './element.js';
import { environmentOf } from './environment.js';
import { explainPick } from './explain.js';
import { parseImage, pickImage } from './image-source.js';

export interface PickFor {
  /** Absolute URL of the file that is taken. */
  url: string;
  /** Device px of the file per CSS px. */
  density: number;
  /** CSS px; undefined when the pick has no width descriptor. */
  sourceSize?: number;
  /** In words. */
  reason: string;
}

export interface PickForOptions {
  strategy?: ChoiceStrategy;
  /** Width of the slot for `sizes=auto` on a lazy image, CSS px. */
  slotWidth?: number;
}

/**
 * What an image takes on a screen.
 * @param html one `img` or `picture`
 * @param screen CSS px and device px per CSS px
 * @param baseUrl what relative addresses are resolved against
 * @returns undefined when the markup holds no image or nothing would be loaded
 * @throws {TypeError} when the base or the picked address is not a URL
 */
export function pickFor(
  html: string,
  screen: Pick<Screen, 'width' | 'height' | 'density' | 'touch'>,
  baseUrl: string,
  { strategy = 'at-least', slotWidth }: PickForOptions = {},
): PickFor | undefined {
  const markup = readImageMarkup(html);
  if (!markup) return undefined;
  const image = parseImage(markup);
  const environment = environmentOf(screen);
  const pick = pickImage(image, environment, { strategy, autoWidth: slotWidth });
  const explained = explainPick(image, environment, slotWidth);
  if (!pick || !explained) return undefined;
  const reason = [explained.because, explained.rule].filter(Boolean).join('; ');
  return {
    url: new URL(pick.url, baseUrl).href,
    density: pick.density,
    reason: strategy === 'at-least' ? reason : `of two neighbours, by their geometric mean`,
    ...(pick.sourceSize === undefined ? {} : { sourceSize: pick.sourceSize }),
  };
}

/**
 * The size that a file lays out at by itself: its own pixels over the density of the pick. HTML standard, 4.8.4.3.13
 * "density-corrected natural width and height"; Chromium cuts off the fraction in `naturalWidth`.
 * @param file device px
 */
export function naturalSize(
  file: { width: number; height: number },
  density: number,
): { width: number; height: number } {
  return { width: file.width / density, height: file.height / density };
}
