import type { PlacementKind } from '../run/index.js';
import { classesIn, nameOf } from '../plan/template.js';
import { isRun, valueOf, type Element, type Node } from './elements.js';

/** Text that begins on a line of its own. */
export interface TextBlock {
  heading: boolean;
  /** Characters, runs of white space as one. */
  length: number;
}

/** An element of a page's file that shows an image, or asks for one. */
export interface OutlinedImage {
  kind: PlacementKind;
  tag: string;
  attributes: [name: string, value: string][];
  /** Attributes of the `source` elements before the `img` in its `picture`. */
  sources: [name: string, value: string][][];
  /** Ancestors from `body` down to the parent. */
  chain: { tag: string; classes: string[] }[];
  /** As the measured page names it. */
  selector: string;
  /** So many blocks of text begin before it. */
  blocksBefore: number;
}

/** What a page's file says of its images and of what stands before them. */
export interface Outline {
  /** Images in document order, then links. */
  images: OutlinedImage[];
  blocks: TextBlock[];
  /** What its `base` element says, as written. */
  base: string | undefined;
  /** What else of it decides how it is shown: its viewport, where it leads by itself, what may be loaded. */
  head: string[];
  /** Addresses of its scripts as written, and the code of those that stand in it, without its data. */
  scripts: ({ src: string } | { code: string })[];
}

/** Stands in a line of text. */
const inline = new Set(
  (
    'a abbr b bdi bdo cite code data dfn em i kbd label mark q s samp small span strong sub sup time u var wbr ' +
    'img picture source input svg image button'
  ).split(' '),
);

/** Shows none of its text. */
const mute = new Set([
  'head',
  'script',
  'style',
  'template',
  'noscript',
  'title',
  'svg',
  'textarea',
  'select',
]);

/** Names of `meta` elements that decide how a page is shown. */
const telling = /^(viewport|refresh|content-security-policy|color-scheme)$/i;

/** Code is the same whatever it is given: texts and numbers in it are other ones on each page. */
const withoutData = (code: string) =>
  code
    .replace(/"(?:[^"\\]|\\.)*"|'(?:[^'\\]|\\.)*'|`(?:[^`\\]|\\.)*`|\d+(?:\.\d+)?/g, '0')
    .replace(/\s+/g, ' ');

/** Reads from a page's tree what a measured page tells of its images, as far as the file says it. */
export function outlineOf(document: Node): Outline {
  return new Reader(document).read();
}

/**
 * What two pages must have in common, beside their skeleton, for the images of one to be read from those of the other: which images there are, in
 * which elements and with which attributes.
 */
export function imageSequence({ images }: Outline): string {
  return images
    .map(({ kind, tag, attributes, sources, chain }) => {
      const path = [...chain, { tag, classes: classesIn(valueIn(attributes, 'class')) }]
        .map(nameOf)
        .join('>');
      return [kind, path, shapeOf(attributes), ...sources.map(shapeOf)].join(' ');
    })
    .join('\n');
}

const valueIn = (attributes: OutlinedImage['attributes'], name: string) =>
  attributes.find(([each]) => each === name)?.[1];

/** Of these attributes the value decides too. */
const deciding = new Set(['loading', 'rel', 'type', 'media', 'as', 'style', 'hidden', 'fetchpriority']);

const shapeOf = (attributes: readonly (readonly [string, string])[]) =>
  attributes
    .map(([name, value]) => (deciding.has(name) ? `${name}=${value}` : name))
    .sort()
    .join(',');

class Reader {
  readonly #images: OutlinedImage[] = [];
  readonly #links: OutlinedImage[] = [];
  readonly #blocks: TextBlock[] = [];
  /** Text of the open block; what is white at its end counts once something follows. */
  #length = 0;
  #white = false;
  #heading = false;
  readonly #ids = new Map<string, number>();
  #base: string | undefined;
  readonly #head: string[] = [];
  readonly #scripts: Outline['scripts'] = [];

  constructor(readonly document: Node) {}

  read(): Outline {
    for (const { node, leaving } of walk(this.document)) {
      if (leaving || !('tagName' in node)) continue;
      const id = valueOf(node, 'id');
      if (id !== undefined) this.#ids.set(id, (this.#ids.get(id) ?? 0) + 1);
      if (node.tagName === 'base') this.#base ??= valueOf(node, 'href');
      if (node.tagName === 'meta') this.#addMeta(node);
      if (node.tagName === 'script') this.#addScript(node);
    }
    for (const { node, leaving } of walk(this.document, mute)) this.#visit(node, leaving);
    this.#endBlock();
    return {
      images: [...this.#images, ...this.#links],
      blocks: this.#blocks,
      base: this.#base,
      head: this.#head,
      scripts: this.#scripts,
    };
  }

  #addMeta(element: Element): void {
    const name = valueOf(element, 'http-equiv') ?? valueOf(element, 'name') ?? '';
    if (telling.test(name)) this.#head.push(`${name.toLowerCase()} ${valueOf(element, 'content') ?? ''}`);
  }

  #addScript(element: Element): void {
    if (!isRun(element)) return;
    const src = valueOf(element, 'src');
    const code = element.childNodes.map((child) => ('value' in child ? child.value : '')).join('');
    this.#scripts.push(src === undefined ? { code: withoutData(code) } : { src });
  }

  #visit(node: Node, leaving: boolean): void {
    if (node.nodeName === '#text' && 'value' in node) return leaving ? undefined : this.#addText(node.value);
    if (!('tagName' in node)) return;
    if (!inline.has(node.tagName)) this.#endBlock();
    if (leaving) return;
    if (/^h[1-6]$/.test(node.tagName)) this.#heading = true;
    const kind = kindOf(node);
    if (kind === undefined) return;
    const image = this.#describe(node, kind);
    if (node.tagName === 'link') this.#links.push(image);
    else this.#images.push(image);
  }

  #addText(text: string): void {
    for (const part of text.split(/(\s+)/)) {
      if (part === '') continue;
      if (/^\s/.test(part)) this.#white = this.#length > 0;
      else {
        this.#length += part.length + Number(this.#white);
        this.#white = false;
      }
    }
  }

  #endBlock(): void {
    if (this.#length > 0) this.#blocks.push({ heading: this.#heading, length: this.#length });
    this.#length = 0;
    this.#white = false;
    this.#heading = false;
  }

  #describe(element: Element, kind: PlacementKind): OutlinedImage {
    return {
      kind,
      tag: element.tagName,
      attributes: attributesOf(element),
      sources: kind === 'picture' ? sourcesBefore(element) : [],
      chain: chainOf(element),
      selector: this.#selectorOf(element),
      blocksBefore: this.#blocks.length + Number(this.#length > 0),
    };
  }

  /** Child steps from the nearest ancestor with an id of its own, or from `body`. */
  #selectorOf(element: Element): string {
    const steps: string[] = [];
    for (let node: Element | undefined = element; node; node = parentOf(node)) {
      const id = valueOf(node, 'id');
      if (id !== undefined && /^[A-Za-z][\w-]*$/.test(id) && this.#ids.get(id) === 1) {
        steps.unshift(`#${id}`);
        break;
      }
      steps.unshift(stepTo(node));
      if (node.tagName === 'body') break;
    }
    return steps.join(' > ');
  }
}

/** Entering and leaving, in document order. Without recursion: pages may nest more elements than a call stack holds. */
function* walk(
  root: Node,
  without: ReadonlySet<string> = new Set(),
): Generator<{ node: Node; leaving: boolean }> {
  const open: { node: Node; leaving: boolean }[] = [{ node: root, leaving: false }];
  for (let next = open.pop(); next; next = open.pop()) {
    yield next;
    const { node, leaving } = next;
    if (leaving || !('childNodes' in node)) continue;
    open.push({ node, leaving: true });
    const isMute = 'tagName' in node && without.has(node.tagName);
    for (let index = node.childNodes.length - 1; index >= 0; index--) {
      const child = node.childNodes[index];
      // Of what shows no text its elements may matter all the same: links in the head, images in a drawing.
      if (child && !(isMute && child.nodeName === '#text')) open.push({ node: child, leaving: false });
    }
  }
}

function kindOf(element: Element): PlacementKind | undefined {
  const { tagName: tag } = element;
  const rel = valueOf(element, 'rel') ?? '';
  switch (tag) {
    case 'img':
      return parentOf(element)?.tagName === 'picture' ? 'picture' : 'img';
    case 'input':
      return /^image$/i.test(valueOf(element, 'type') ?? '') ? 'input' : undefined;
    case 'image':
      return element.namespaceURI.endsWith('/svg') ? 'svg-image' : undefined;
    case 'video':
      return valueOf(element, 'poster') === undefined ? undefined : 'video-poster';
    case 'object':
      return valueOf(element, 'data') === undefined ? undefined : 'object';
    case 'embed':
      return valueOf(element, 'src') === undefined ? undefined : 'object';
    case 'link':
      if (/(^|\s)preload(\s|$)/i.test(rel))
        return /^image$/i.test(valueOf(element, 'as') ?? '') ? 'preload' : undefined;
      return /(^|\s)icon(\s|$)/i.test(rel) ? 'icon-link' : undefined;
    default:
      return undefined;
  }
}

const attributesOf = ({ attrs }: Element): [string, string][] =>
  attrs.map(({ prefix, name, value }) => [prefix ? `${prefix}:${name}` : name, value]);

function parentOf({ parentNode }: Element): Element | undefined {
  return parentNode && 'tagName' in parentNode ? parentNode : undefined;
}

function chainOf(element: Element): OutlinedImage['chain'] {
  const chain: OutlinedImage['chain'] = [];
  for (let node = parentOf(element); node; node = parentOf(node)) {
    chain.unshift({ tag: node.tagName, classes: classesIn(valueOf(node, 'class')) });
    if (node.tagName === 'body') break;
  }
  return chain;
}

function sourcesBefore(image: Element): [string, string][][] {
  const children = parentOf(image)?.childNodes ?? [];
  return children
    .slice(0, children.indexOf(image))
    .flatMap((node) => ('tagName' in node && node.tagName === 'source' ? [attributesOf(node)] : []));
}

function stepTo(element: Element): string {
  const { tagName, parentNode } = element;
  const alike = (parentNode?.childNodes ?? []).filter(
    (node): node is Element => 'tagName' in node && node.tagName === tagName,
  );
  return alike.length > 1 ? `${tagName}:nth-of-type(${alike.indexOf(element) + 1})` : tagName;
}
