import { classesIn, nameOf } from '../plan/template.js';
import { isRun, valueOf, type Element, type Node } from './elements.js';

/** Elements of running text: how many there are, and of which kind, moves what follows down and nothing else. */
const runningText = new Set(
  'p h1 h2 h3 h4 h5 h6 ul ol dl pre blockquote hr table a em strong b i u s small code kbd samp var sub sup br abbr cite q time mark span'.split(
    ' ',
  ),
);

/** What may show an image, itself or by its content. */
const imageElements = new Set([
  'img',
  'picture',
  'source',
  'video',
  'svg',
  'object',
  'embed',
  'iframe',
  'input',
]);

/** Of these the values matter too: they lay the page out, or choose what does. */
const laidOutBy = new Set(['style', 'media', 'rel', 'type', 'dir', 'loading']);

/** Attributes that only name something, or tell of it. */
const silent =
  /^(id|alt|title|href|src|srcset|sizes|content|datetime|cite|lang|name|value|data-.*|aria-.*|on.*)$/;

/**
 * What the pages of one template have in common: the tree of their elements' names, classes and attributes' names, with text and addresses
 * left out, and what styles they ask for. Running text without an image in it counts as text, however many paragraphs it has, and
 * equal things that stand beside each other count once: so a page with more of them has the same skeleton.
 *
 * Two pages of one skeleton are taken to lay out images alike only where what was measured of both says so too.
 * @param document the page's file, parsed
 * @param resolve gives an address as it stands in the page the form that it has on every page
 * @returns a text that is the same for pages of one skeleton
 */
export function skeletonOf(document: Node, resolve: (address: string) => string): string {
  const shapes = new Shapes();
  const found = new Map<Node, Part>();
  // Without recursion: pages may nest more elements than a call stack holds. Children stand behind their parents.
  const nodes = inOrder(document);
  for (let index = nodes.length - 1; index >= 0; index--) {
    const node = nodes[index];
    if (node) found.set(node, partOf(node, found, shapes, resolve));
  }
  const root = nodes[0] && found.get(nodes[0]);
  return root ? shapes.from(root.id) : '';
}

/** Running text among the parts of an element. */
const textId = -1;

/** The different parts of a page, each with a number. */
class Shapes {
  readonly #ids = new Map<string, number>();
  readonly #told: { own: string; inside: readonly number[] }[] = [];

  idOf(own: string, inside: readonly number[] = []): number {
    const key = JSON.stringify([own, inside]);
    const id = this.#ids.get(key) ?? this.#ids.size;
    if (id === this.#ids.size) {
      this.#ids.set(key, id);
      this.#told.push({ own, inside });
    }
    return id;
  }

  /** One part with all that is inside it, and nothing else: a line for each, numbered anew. */
  from(root: number): string {
    const order = new Map<number, number>([[root, 0]]);
    // Grows while it is read: what is inside comes behind.
    for (const id of order.keys())
      for (const inner of this.#told[id]?.inside ?? []) if (!order.has(inner)) order.set(inner, order.size);
    const nameOfPart = (id: number) => (id === textId ? 'text' : String(order.get(id)));
    return [...order.keys()]
      .filter((id) => id !== textId)
      .map((id) => {
        const { own = '', inside = [] } = this.#told[id] ?? {};
        return `${nameOfPart(id)} ${own} (${inside.map(nameOfPart).join(' ')})`;
      })
      .join('\n');
  }
}

/** A part of a page; null stands for running text, undefined for nothing at all. */
type Part = { id: number; shows: boolean } | null | undefined;

function inOrder(root: Node): Node[] {
  const nodes: Node[] = [];
  const open: Node[] = [root];
  for (let next = open.pop(); next; next = open.pop()) {
    nodes.push(next);
    if ('childNodes' in next) open.push(...next.childNodes.slice().reverse());
  }
  return nodes;
}

function partOf(
  node: Node,
  found: ReadonlyMap<Node, Part>,
  shapes: Shapes,
  resolve: (address: string) => string,
): Part {
  if (node.nodeName === '#text') return 'value' in node && node.value.trim() !== '' ? null : undefined;
  if (!('childNodes' in node)) return undefined;
  if (!('tagName' in node))
    return { id: shapes.idOf('root', childrenOf(node.childNodes, found)), shows: true };
  const { tagName: tag } = node;
  const styles = stylesOf(node, resolve);
  if (styles !== undefined) return { id: shapes.idOf(styles), shows: false };
  if (tag === 'script') return isRun(node) ? { id: shapes.idOf('script'), shows: false } : undefined;
  if (tag === 'head' || tag === 'title' || tag === 'meta' || tag === 'link' || tag === 'base') {
    return tag === 'head'
      ? { id: shapes.idOf('head', childrenOf(node.childNodes, found)), shows: false }
      : undefined;
  }
  const parts = node.childNodes.map((child) => found.get(child));
  const shows = imageElements.has(tag) || parts.some((part) => part?.shows);
  const classes = classesIn(valueOf(node, 'class'));
  if (!shows && runningText.has(tag) && classes.length === 0) return null;
  const own = [nameOf({ tag, classes }), ...attributesOf(node)].join(' ');
  // Of what shows no image only its own name tells how it stands among its neighbours.
  return { id: shapes.idOf(own, shows ? childrenOf(node.childNodes, found) : []), shows };
}

/** The parts inside one, each once, in the order in which they first stand there. */
function childrenOf(nodes: readonly Node[], found: ReadonlyMap<Node, Part>): number[] {
  const parts = nodes.flatMap((child) => {
    const part = found.get(child);
    return part === undefined ? [] : [part === null ? textId : part.id];
  });
  return [...new Set(parts)];
}

function attributesOf({ attrs }: Element): string[] {
  return attrs
    .filter(({ name }) => name !== 'class' && !silent.test(name))
    .map(({ name, value }) => (laidOutBy.has(name) ? `${name}=${withoutAddresses(value)}` : name))
    .sort();
}

const withoutAddresses = (style: string) => style.replace(/url\([^)]*\)/gi, 'url()').trim();

/** A sheet that the page asks for, or its own. */
function stylesOf(element: Element, resolve: (address: string) => string): string | undefined {
  if (element.tagName === 'style') {
    const text = element.childNodes.map((child) => ('value' in child ? child.value : '')).join('');
    return `style ${valueOf(element, 'media') ?? ''} ${text.replace(/\s+/g, ' ')}`;
  }
  if (element.tagName !== 'link' || !/(^|\s)stylesheet(\s|$)/i.test(valueOf(element, 'rel') ?? ''))
    return undefined;
  return `sheet ${valueOf(element, 'media') ?? ''} ${resolve(valueOf(element, 'href') ?? '')}`;
}
