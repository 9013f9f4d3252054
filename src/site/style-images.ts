import {
  generate,
  parse,
  walk,
  type Atrule,
  type CssLocation,
  type CssNode,
  type Rule,
  type Selector,
  type WalkContext,
} from 'css-tree';
import { parseStyles } from '../core/markup/index.js';
import type { LiveElement } from './match-elements.js';
import { elementsWithin, type HtmlElement, type ParsedPage } from './walk-html.js';

/**
 * A declaration that names an image, in a sheet, in a page's own style element or in a style attribute; or an attribute for scripts that holds
 * an address, which many write into a style.
 */
export interface StyleImage {
  /** That is declared, or the name of the attribute. */
  property: string;
  /** As written. */
  url: string;
  line: number;
  column: number;
  /** The rule that holds it, or the condition in a rule, as written; of a style attribute its declarations, or the whole of it (`style='…'`), as of one for scripts. */
  rule: string;
  /** As css-tree writes it; null for a style attribute. */
  selector: string | null;
  /** Conditions of the `@media` rules around it, from the outermost one on, as written. */
  media: string[];
  /** The element whose attribute it is. */
  element?: LiveElement;
}

/**
 * Finds the declarations of a style sheet that name images, with their places. What does not parse is passed over, as browsers do. Lines
 * and columns begin at 1.
 */
export function findStyleImages(css: string): StyleImage[] {
  const found: StyleImage[] = [];
  const tree = parseStyles(css, { positions: true });
  const media: { condition: string; loc: CssLocation | null | undefined }[] = [];
  walk(tree, {
    enter(this: WalkContext, node: CssNode) {
      if (isMedia(node))
        media.push({ condition: node.prelude ? generate(node.prelude) : 'all', loc: node.loc });
      if (node.type !== 'Declaration') return;
      const { rule } = this;
      // What a condition inside a rule holds has a text of its own: the rule shows other images without it.
      const inside = media.find(({ loc }) => loc && rule?.loc && loc.start.offset > rule.loc.start.offset);
      const range = inside?.loc ?? rule?.loc;
      const text = range ? css.slice(range.start.offset, range.end.offset) : '';
      const urls = urlsOf(node);
      // Of several in a custom property it cannot be told which of them are shown.
      if (isCustom(node.property) && urls.length > 1) return;
      for (const { value, loc } of urls) {
        const place: CssLocation | null | undefined = node.loc ?? loc;
        if (!place) continue;
        const { line, column } = place.start;
        found.push({
          property: node.property,
          url: value,
          line,
          column,
          rule: text,
          selector: rule ? selectorOf(rule) : null,
          media: media.map(({ condition }) => condition),
        });
      }
    },
    leave(node: CssNode) {
      if (isMedia(node)) media.pop();
    },
  });
  return found;
}

const isMedia = (node: CssNode): node is Atrule => node.type === 'Atrule' && node.name === 'media';

/** Whether a property is a custom one. CSS Custom Properties for Cascading Variables Module Level 1, section 2. */
export const isCustom = (property: string) => property.startsWith('--');

/** Whether it is an attribute for scripts. HTML standard, 3.2.6.6 "Embedding custom non-visible data". */
export const isForScripts = (property: string) => property.startsWith('data-');

/** The addresses that a declaration names: as `url()`, or as a plain string of an `image-set()`. */
function urlsOf(node: CssNode): { value: string; loc?: CssLocation | null | undefined }[] {
  const urls: { value: string; loc?: CssLocation | null | undefined }[] = [];
  walk(node, {
    enter(this: WalkContext, each: CssNode) {
      const inSet = each.type === 'String' && /image-set$/.test(this.function?.name ?? '');
      if ((each.type === 'Url' || inSet) && !each.value.startsWith('data:'))
        urls.push({ value: each.value, loc: each.loc });
    },
  });
  return urls;
}

const selectorOf = ({ prelude }: Rule) =>
  prelude.type === 'SelectorList' ? plainList(prelude.children.toArray()) : generate(prelude);

/** A selector as css-tree writes it, so that two ways of writing one are the same text. */
export function plainSelector(selector: string): string {
  try {
    const list = parse(selector, { context: 'selectorList' });
    return list.type === 'SelectorList' ? plainList(list.children.toArray()) : selector;
  } catch {
    return selector;
  }
}

const plainList = (selectors: readonly CssNode[]) =>
  selectors.map((each) => (each.type === 'Selector' ? plainOne(each) : generate(each))).join(',');

/** Before a combinator `&` may be left out, as most do; browsers write it. CSS Nesting Module Level 1, section 3.1. */
function plainOne(selector: Selector): string {
  const [first, second] = selector.children.toArray();
  const text = generate(selector);
  return first?.type === 'NestingSelector' && second?.type === 'Combinator'
    ? text.slice(1).trimStart()
    : text;
}

/** Finds the images that a page's own style elements and style attributes name, with their places in the page. */
export function findPageStyleImages({ html, document }: ParsedPage): StyleImage[] {
  const found: StyleImage[] = [];
  for (const { element } of elementsWithin(document))
    for (const image of element.tagName === 'style'
      ? inElement(element)
      : [...inAttribute(element, html), ...inDataAttributes(element, html)])
      found.push(image);
  return found;
}

/** An address of an image and nothing else: what is more than that is for a script that does more with it. */
const plainAddress = /^[^\s"'<>{}(),]+\.(jpe?g|png|gif|webp|avif)(\?[^\s"'<>{}(),]*)?$/i;

/** Of images their own scripts take them. */
const showThemselves = new Set(['img', 'source', 'video', 'iframe']);

function inDataAttributes({ tagName, attrs, sourceCodeLocation }: HtmlElement, html: string): StyleImage[] {
  if (showThemselves.has(tagName)) return [];
  return attrs.flatMap(({ name, value }) => {
    const place = sourceCodeLocation?.attrs?.[name];
    if (!place || !isForScripts(name) || !plainAddress.test(value.trim())) return [];
    return {
      property: name,
      url: value.trim(),
      line: place.startLine,
      column: place.startCol,
      rule: html.slice(place.startOffset, place.endOffset),
      selector: null,
      media: [],
      element: liveElement({ tagName, attrs }),
    };
  });
}

/** An element as it is known where it shows the image of a style. */
const liveElement = ({ tagName, attrs }: Pick<HtmlElement, 'tagName' | 'attrs'>): LiveElement => ({
  tag: tagName,
  attributes: attrs.filter(({ name }) => name === 'class').map(({ name, value }) => [name, value]),
});

function inElement({ childNodes }: HtmlElement): StyleImage[] {
  const [text] = childNodes;
  if (!text || !('value' in text) || !text.sourceCodeLocation) return [];
  const { startLine, startCol } = text.sourceCodeLocation;
  return findStyleImages(text.value).map((image) => ({
    ...image,
    line: startLine + image.line - 1,
    column: image.line === 1 ? startCol + image.column - 1 : image.column,
  }));
}

function inAttribute({ tagName, attrs, sourceCodeLocation }: HtmlElement, html: string): StyleImage[] {
  const place = sourceCodeLocation?.attrs?.['style'];
  const style = attrs.find(({ name }) => name === 'style')?.value;
  if (!place || style === undefined || !/url\(|image-set\(/.test(style)) return [];
  const written = html.slice(place.startOffset, place.endOffset);
  return findStyleImages(`x{${style}}`).map(({ property, url }) => ({
    property,
    url,
    line: place.startLine,
    column: place.startCol,
    // Where entities or other quotes make it another text than the file has, the attribute is told whole.
    rule: written.includes(`"${style}"`) ? style : written,
    selector: null,
    media: [],
    element: liveElement({ tagName, attrs }),
  }));
}
