import { viewOf } from '../layout/view-of.js';
import type { PictureWrap, Placement, Screen } from '../run/types.js';
import { resolveAddress } from './addresses.js';
import type { FileBook } from './file-book.js';
import {
  attributeNames,
  readAttributeState,
  readImageState,
  stateOfImage,
  type ImageState,
  type SourceState,
} from './image-state.js';
import { readLinkState } from './link.js';
import { readText } from './pick-text.js';
import { styleOptions } from './style-rule.js';
import { asElement } from './attribute-text.js';
import { asCompleted, listsForScript, readCompleted } from './picture-for-script.js';
import { completedByScript, listForScript } from './script-image.js';
import { attributeOf, dataAttributes } from './tag.js';
import { provisional, writeState } from './write-state.js';

/**
 * What a placement's text offers.
 * @returns undefined where the text does not say what the browser took: then nothing can be promised of editing it
 */
export function startState(
  placement: Placement,
  screens: readonly Screen[],
  book: FileBook,
): ImageState | undefined {
  const state = read(placement, book);
  if (state && explains(state, placement, screens)) return state;
  const forScript =
    placement.kind === 'img'
      ? readForScript(placement, book)
      : placement.kind === 'picture'
        ? wrapped(readPictureForScript(placement, book), placement)
        : undefined;
  return forScript && explains(forScript, placement, screens) ? forScript : undefined;
}

/** Scripts do the same with the sources of a `picture`. */
function readPictureForScript({ markup, base }: Placement, book: FileBook): ImageState | undefined {
  const names = listsForScript(markup);
  if (!names) return undefined;
  const completed = asCompleted(markup, names);
  const read = readCompleted(completed, names);
  return read && stateOfImage(read, { kind: 'tag', names }, completed, base, book);
}

/**
 * Scripts that load images once they come near take the addresses from attributes of the tag. Where several attributes say what was fetched, it
 * cannot be told which of them they read.
 */
function readForScript(placement: Placement, book: FileBook): ImageState | undefined {
  const { markup, base, downloads } = placement;
  const urls = new Set(Object.values(downloads).map(({ url }) => url));
  if (urls.size === 0) return undefined;
  const attributes = dataAttributes(markup);
  const list = listForScript(attributes);
  const fetched = [...attributes].flatMap(([name, value]) =>
    urls.has(resolveAddress(value.trim(), base)) ? [name] : [],
  );
  const completed = list && completedByScript(markup, list);
  if (list && completed)
    return stateOfImage(completed, { kind: 'list-for-script', ...list }, markup, base, book);
  return fetched.length === 1 ? stateOf(placement, fetched, book) : undefined;
}

function read(placement: Placement, book: FileBook): ImageState | undefined {
  const { kind, markup, base } = placement;
  switch (kind) {
    case 'img':
    case 'picture':
      // A script that writes src knows nothing of lists and pictures: what it sets would not be shown.
      return hasOneFile(placement)
        ? stateOf(placement, ['src'], book)
        : wrapped(readImageState(markup, base, book), placement);
    case 'preload':
      return readLinkState(markup, base, book);
    case 'css-image':
      return placement.attribute === undefined
        ? readStyleState(placement, book)
        : stateOf(placement, [placement.attribute], book);
    case 'icon-link':
      return undefined;
    case 'svg-image':
      return stateOf(placement, ['href', 'xlink:href'], book);
    default:
      return stateOf(placement, [attributeNames[kind], 'src'], book);
  }
}

/** Whether a script writes the `src` of an image. */
const isAddressed = ({ shown }: Pick<Placement, 'shown'>): boolean =>
  Object.values(shown).some(({ addressed }) => addressed === true);

/** Whether an image is to keep one file, which its `src` names. */
export const hasOneFile = (placement: Placement): boolean =>
  placement.kind === 'img' && isAddressed(placement) && attributeOf(placement.markup, 'srcset') === undefined;

/** The state of what names its file in the first of these attributes that is there. */
function stateOf(
  { markup, base }: Placement,
  names: readonly string[],
  book: FileBook,
): ImageState | undefined {
  for (const name of names) {
    const written = attributeOf(asElement(markup), name);
    if (written !== undefined) return readAttributeState({ markup, base, name, written }, book);
  }
  return undefined;
}

/** From the most readable to none: what holds on one screen has to hold on all. */
const wraps: readonly PictureWrap[] = ['spaced', 'close', 'boxless', 'none'];

function wrapped(state: ImageState | undefined, placement: Placement): ImageState | undefined {
  const { shown } = placement;
  // A script that writes the list too would find it behind that of a picture.
  const strictest = Math.max(
    isAddressed(placement) ? wraps.indexOf('none') : 0,
    ...Object.values(shown).map(({ pictureWrap }) => (pictureWrap === null ? 0 : wraps.indexOf(pictureWrap))),
  );
  if (!state) return undefined;
  const { form, base, like, sources, edits } = state;
  // Written out: each copy by spread would get a shape of its own in memory, which takes more room than what is in it.
  return { form, markup: state.markup, base, like, sources, wrap: wraps[strictest] ?? 'spaced', edits };
}

function readStyleState({ markup, base, style, source }: Placement, book: FileBook): ImageState | undefined {
  // A rule that a script wrote has no text that could be edited.
  if (!style || !source) return undefined;
  const options = styleOptions(markup, style);
  const [first] = options;
  if (!first) return undefined;
  const types = [...new Set(options.map(({ type }) => type))];
  const sources = types.map((type): SourceState => ({
    origin: type === options[0]?.type ? 0 : null,
    media: null,
    type,
    rungs: options
      .filter((option) => option.type === type)
      .map(({ url, density }) => ({
        file: book.existing(resolveAddress(url, base)),
        descriptor: { density },
        inSrc: false,
      })),
    sizes: null,
    changed: false,
  }));
  return { form: { kind: 'style', ...style }, markup, base, like: first.url, sources, edits: [] };
}

function explains(state: ImageState, placement: Placement, screens: readonly Screen[]): boolean {
  const pick = readText(writeState(state, provisional), state.form, state.base);
  return screens.every((screen) => {
    const download = placement.downloads[screen.name];
    return (
      !download || pick(viewOf(placement, screen), placement.slots[screen.name]?.width)?.url === download.url
    );
  });
}
