import { parseFragment, type DefaultTreeAdapterTypes } from 'parse5';
import { addSources, addStill, changeAddresses, renameFiles } from './tag-sources.js';
import { writeElement } from './tag-writer.js';

type Node = DefaultTreeAdapterTypes.ChildNode;
type Element = DefaultTreeAdapterTypes.Element;

/** One change of a tag. Edits of `img` reach into a `picture`. */
export type TagEdit =
  | { kind: 'set'; name: string; value: string }
  | { kind: 'remove'; name: string }
  /** Changes the nth `source` of the picture, counted from 0. */
  | { kind: 'set-on-source'; index: number; name: string; value: string }
  /** Replaces the extension of every address that names a file of a format: `png` becomes `jpg`. */
  | { kind: 'rename'; from: string; to: string }
  /** Replaces one address by another, wherever it stands. */
  | { kind: 'readdress'; from: string; to: string }
  /** Puts sources of another format before those there are, with the same files under another extension. */
  | { kind: 'add-source'; type: string; extension: string }
  /** Puts a source for a media condition before all others. */
  | { kind: 'add-still'; media: string; srcset: string }
  /** Moves a `source` before another, both counted from 0. */
  | { kind: 'move-source'; from: number; to: number };

/** Attributes that belong together stand together in what we write. */
const order = [
  'src',
  'srcset',
  'sizes',
  'width',
  'height',
  'loading',
  'fetchpriority',
  'decoding',
  'alt',
  'class',
];

/**
 * Writes the markup of an image with edits applied, ready to paste. Attributes keep their order; new ones are put
 * behind the last of their kin.
 * @returns the markup unchanged where it holds no element
 */
export function editMarkup(markup: string, edits: readonly TagEdit[]): string {
  const [element] = parseFragment(markup).childNodes.filter(isElement);
  if (!element) return markup;
  const target = findTarget(element);
  const sources = element.childNodes.filter(isElement).filter(({ tagName }) => tagName === 'source');
  let whole = element;
  // Sources of another format repeat what the present ones say, so they come after all other changes.
  for (const edit of [...edits].sort((a, b) => lateness(a) - lateness(b))) {
    if (edit.kind === 'set') setAttribute(target, edit.name, edit.value);
    else if (edit.kind === 'remove') target.attrs = target.attrs.filter(({ name }) => name !== edit.name);
    else if (edit.kind === 'move-source') moveBefore(element, sources[edit.from], sources[edit.to]);
    else if (edit.kind === 'rename') renameFiles(whole, edit);
    else if (edit.kind === 'readdress') changeAddresses(whole, (url) => (url === edit.from ? edit.to : url));
    else if (edit.kind === 'add-source') whole = addSources(whole, edit);
    else if (edit.kind === 'add-still') whole = addStill(whole, edit);
    else {
      const source = sources[edit.index];
      if (source) setAttribute(source, edit.name, edit.value);
    }
  }
  return writeElement(whole);
}

const late: Partial<Record<TagEdit['kind'], number>> = { rename: 1, 'add-source': 2, 'add-still': 3 };
const lateness = ({ kind }: TagEdit) => late[kind] ?? 0;

function isElement(node: Node): node is Element {
  return 'tagName' in node;
}

function findTarget(element: Element): Element {
  if (element.tagName !== 'picture') return element;
  return element.childNodes.filter(isElement).find(({ tagName }) => tagName === 'img') ?? element;
}

function moveBefore(parent: Element, moved: Element | undefined, other: Element | undefined): void {
  if (!moved || !other) return;
  const rest = parent.childNodes.filter((node) => node !== moved);
  rest.splice(rest.indexOf(other), 0, moved);
  parent.childNodes = rest;
}

function setAttribute(element: Element, name: string, value: string): void {
  const present = element.attrs.find((attribute) => attribute.name === name);
  if (present) {
    present.value = value;
    return;
  }
  const rank = order.indexOf(name);
  const kin = element.attrs.findLastIndex((attribute) => {
    const other = order.indexOf(attribute.name);
    return other >= 0 && rank >= 0 && other < rank;
  });
  element.attrs.splice(kin >= 0 ? kin + 1 : element.attrs.length, 0, { name, value });
}
