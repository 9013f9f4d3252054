import { generate, walk, type Atrule, type CssNode, type Declaration, type List } from 'css-tree';
import { groupBy } from '../grouping.js';
import {
  isSupportedImageType,
  mediaQueriesMatch,
  parseMediaQueryList,
  parseStyles,
  type Environment,
} from '../markup/index.js';
import type { StyleLayer } from '../run/types.js';
import { resolveAddress } from './addresses.js';
import type { PlannedFile } from './file-book.js';
import type { SourceState } from './image-state.js';
import { asStyleAttribute, declarationsIn, isStyleAttribute } from './style-attribute.js';

/** A file that one layer of a style shows. */
export interface StyleOption {
  /** As written. */
  url: string;
  density: number;
  type: string | null;
}

/** Where in a style an image stands. */
export interface StylePlace extends StyleLayer {
  base: string;
}

/** Rules are parsed as they stand; declarations of a style attribute are put into a rule without a name, and have no conditions. */
export const isRule = (css: string): boolean => css.trimEnd().endsWith('}');
/** Whether it stands under a condition inside a rule, and is told with it. CSS Nesting Module Level 1, section 4. */
export const isConditionInRule = (css: string): boolean => css.startsWith('@') && isRule(css);
const standsAlone = (css: string) => isRule(css) && !isConditionInRule(css);
const asSheet = (css: string) => (standsAlone(css) ? css : `x{${css}}`);

const parseSheet = (text: string) => parseStyles(asSheet(declarationsIn(text)), { positions: true });

/** The declarations that can hold a property's images: itself, and its shorthand. */
const holders = (property: string) => {
  const shorthand = property.replace(/-(image|image-source)$/, '');
  return new Set([property, shorthand, `-webkit-${property}`, `-webkit-${shorthand}`]);
};

/** Cuts the value of a declaration at the commas between its layers. */
function layersOf({ value }: Declaration): CssNode[][] {
  if (value.type !== 'Value') return [];
  const layers: CssNode[][] = [[]];
  value.children.forEach((node) => {
    if (node.type === 'Operator' && node.value === ',') layers.push([]);
    else layers.at(-1)?.push(node);
  });
  return layers;
}

const isImage = (node: CssNode) =>
  node.type === 'Url' ||
  (node.type === 'Function' && /image-set$|gradient$|^image$|^cross-fade$/.test(node.name));
const isImageSet = (node: CssNode) => node.type === 'Function' && /^(-webkit-)?image-set$/.test(node.name);

/** The options of one image: of `url()` one, of `image-set()` each. CSS Images Level 4, section 3.3. */
function optionsOf(node: CssNode | undefined): StyleOption[] {
  if (!node) return [];
  if (node.type === 'Url') return [{ url: node.value, density: 1, type: null }];
  if (node.type !== 'Function' || !isImageSet(node)) return [];
  const options: StyleOption[] = [];
  for (const entry of splitAtCommas(node.children)) {
    const option: StyleOption = { url: '', density: 1, type: null };
    for (const part of entry) {
      if (part.type === 'Url' || part.type === 'String') option.url = part.value;
      else if (part.type === 'Dimension') option.density = toDensity(Number(part.value), part.unit);
      else if (part.type === 'Function' && part.name === 'type')
        part.children.forEach((inner) => {
          if (inner.type === 'String') option.type = inner.value;
        });
    }
    if (option.url !== '') options.push(option);
  }
  return options;
}

function splitAtCommas(nodes: List<CssNode>): CssNode[][] {
  const entries: CssNode[][] = [[]];
  nodes.forEach((node) => {
    if (node.type === 'Operator' && node.value === ',') entries.push([]);
    else entries.at(-1)?.push(node);
  });
  return entries;
}

/** Resolutions of CSS Values Level 4, section 7.4, in px for each CSS px. */
function toDensity(value: number, unit: string): number {
  if (unit === 'dpi') return value / 96;
  return unit === 'dpcm' ? (value * 2.54) / 96 : value;
}

/** A declaration, and the conditions that it stands under. */
interface Declared {
  declaration: Declaration;
  conditions: readonly string[];
}

/** Declarations of a rule that hold a property, each with the conditions that it stands under; rules inside it are others. */
function declarationsOf(text: string, property: string): Declared[] {
  const names = holders(property);
  const found: Declared[] = [];
  const conditions: string[] = [];
  let depth = 0;
  walk(parseSheet(text), {
    enter(node: CssNode) {
      if (node.type === 'Rule') depth++;
      if (isMedia(node)) conditions.push(node.prelude ? generate(node.prelude) : 'all');
      if (node.type !== 'Declaration' || depth > 1 || !names.has(node.property)) return;
      if (layersOf(node).some((layer) => layer.some(isImage)))
        found.push({ declaration: node, conditions: [...conditions] });
    },
    leave(node: CssNode) {
      if (node.type === 'Rule') depth--;
      if (isMedia(node)) conditions.pop();
    },
  });
  return found;
}

const isMedia = (node: CssNode): node is Atrule => node.type === 'Atrule' && node.name === 'media';

/** The last declaration of a text that applies in an environment; in any, if none is given. */
function lastOf(
  declared: readonly Declared[],
  text: string,
  environment?: Environment,
): Declaration | undefined {
  const holds = (condition: string) =>
    environment !== undefined && mediaQueriesMatch(parseMediaQueryList(condition), environment);
  const own = isConditionInRule(text) ? 1 : 0;
  return declared.findLast(({ conditions }) => conditions.slice(own).every(holds))?.declaration;
}

/** What a layer of a style offers where no condition is asked for. */
export function styleOptions(text: string, { property, layer }: StyleLayer): StyleOption[] {
  const declaration = lastOf(declarationsOf(text, property), text);
  return declaration ? optionsOf(layersOf(declaration)[layer]?.find(isImage)) : [];
}

/**
 * What a style shows in an environment: of the options whose type is known the one with the smallest density at or above the screen's,
 * else the largest, as Chromium 147 chooses.
 */
export function pickStyle(
  text: string,
  { property, layer }: StyleLayer,
  environment: Environment,
): StyleOption | undefined {
  const declaration = lastOf(declarationsOf(text, property), text, environment);
  const options = declaration ? optionsOf(layersOf(declaration)[layer]?.find(isImage)) : [];
  const known = options.filter(({ type }) => type === null || isSupportedImageType(type));
  const sorted = [...known].sort((a, b) => a.density - b.density);
  return sorted.find(({ density }) => density >= environment.density) ?? largest(sorted);
}

/** Of equally dense options the first counts. */
const largest = (sorted: readonly StyleOption[]) =>
  sorted.find(({ density }) => density === sorted.at(-1)?.density);

/**
 * An address in a style, without quotes where it needs none. Parentheses and apostrophes stand in addresses as they are, and would be others if they
 * were written in hexadecimals. CSS Syntax Level 3, section 4.3.6; URL standard, path percent-encode set.
 */
function asUrl(address: string, quote: '"' | "'"): string {
  const path = address.replace(
    /[\s"\\]/g,
    (sign) => `%${sign.charCodeAt(0).toString(16).toUpperCase().padStart(2, '0')}`,
  );
  return /['()]/.test(path) ? `url(${quote}${path.replaceAll(quote, `\\${quote}`)}${quote})` : `url(${path})`;
}

/** Writes what a source offers as an image of CSS. Sources of one condition are told apart by type. */
function imageOf(
  sources: readonly SourceState[],
  write: (file: PlannedFile) => string,
  quote: '"' | "'",
): string {
  const options = sources.flatMap(({ rungs, type }) =>
    rungs.map(({ file, descriptor }) => ({
      url: asUrl(write(file), quote),
      density: 'density' in descriptor ? descriptor.density : 1,
      type,
    })),
  );
  const [only] = options;
  if (only && options.length === 1 && only.density === 1 && only.type === null) return only.url;
  const entries = options
    .sort((a, b) => a.density - b.density)
    .map(
      ({ url, density, type }) =>
        `${url}${type === null ? '' : ` type(${quote}${type}${quote})`} ${density}x`,
    );
  return `image-set(${entries.join(', ')})`;
}

/**
 * Writes a rule anew: its image stands where it stood, and conditions for narrower viewports follow in rules of their own.
 * @param sources in the order in which a viewport is looked up: narrow ones first, the one without a condition last
 */
export function writeStyle(
  text: string,
  place: StylePlace,
  sources: readonly SourceState[],
  write: (file: PlannedFile) => string,
): string {
  return isStyleAttribute(text)
    ? asStyleAttribute(writeCss(declarationsIn(text), place, sources, write))
    : writeCss(text, place, sources, write);
}

function writeCss(
  text: string,
  place: StylePlace,
  sources: readonly SourceState[],
  write: (file: PlannedFile) => string,
): string {
  const declared = declarationsOf(text, place.property);
  const declaration = lastOf(declared, text);
  const node = declaration && layersOf(declaration)[place.layer]?.find(isImage);
  if (!declaration || !node?.loc) return text;
  const shift = standsAlone(text) ? 0 : 2;
  // Style attributes stand in double quotes.
  const quote = isRule(text) ? '"' : "'";
  const [from, to] = [node.loc.start.offset - shift, node.loc.end.offset - shift];
  const groups = groupBy(sources, ({ media }) => media);
  const whole = text.slice(0, from) + imageOf(groups.get(null) ?? [], write, quote) + text.slice(to);
  const narrower = [...groups].filter(([media]) => media !== null).reverse();
  if (narrower.length === 0 || !isRule(text)) return whole;
  const shown = narrower.map(([media, group]) => {
    const images = layersOf(declaration).map((layer, index) => {
      if (index === place.layer) return imageOf(group, write, quote);
      const image = layer.find(isImage);
      return image ? generate(image) : 'none';
    });
    const important = declaration.important === false ? '' : ' !important';
    return { media: media ?? 'all', value: `${place.property}: ${images.join(', ')}${important};` };
  });
  // Behind a rule they would undo the conditions that stand in it.
  if (declared.some(({ conditions }) => conditions.length > 0)) {
    const end = whole.length - text.length + (declaration.loc?.end.offset ?? 0) - shift;
    const inside = shown.map(({ media, value }) => `\n@media ${media} { ${value} }`).join('');
    return `${whole.slice(0, end)};${inside}\n${whole.slice(end).replace(/^\s*;?\s*/, '')}`;
  }
  const selector = text.slice(0, text.indexOf('{')).trim();
  return [whole, ...shown.map(({ media, value }) => `@media ${media} {\n  ${selector} { ${value} }\n}`)].join(
    '\n',
  );
}

/** Every address that a layer of a style may show, resolved. */
export const styleAddresses = (text: string, place: StylePlace): string[] =>
  styleOptions(text, place).map(({ url }) => resolveAddress(url, place.base));
