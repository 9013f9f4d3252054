import { defaultTreeAdapter, html, type DefaultTreeAdapterTypes } from 'parse5';
import { parseSrcset } from '../markup/index.js';
import { withExtension } from './file-names.js';

type Element = DefaultTreeAdapterTypes.Element;

interface Renaming {
  from: string;
  to: string;
}

const extensions: Record<string, RegExp> = { jpeg: /\.jpe?g(?=$|[?#])/i };

function isElement(node: DefaultTreeAdapterTypes.ChildNode): node is Element {
  return 'tagName' in node;
}

const attribute = (element: Element, name: string) => element.attrs.find((each) => each.name === name);

/** Gives every address in an attribute's value another extension, where `wanted` says so. */
function mapAddresses(name: string, value: string, change: (url: string) => string): string {
  if (name === 'src') return change(value);
  return parseSrcset(value)
    .candidates.map(({ url, width, density }) => {
      const descriptor =
        width !== undefined ? ` ${width}w` : density !== undefined && density !== 1 ? ` ${density}x` : '';
      return change(url) + descriptor;
    })
    .join(', ');
}

/** Gives files of one format another extension, in an element and in its children. */
export function renameFiles(element: Element, { from, to }: Renaming): void {
  const ending = extensions[from] ?? new RegExp(`\\.${from}(?=$|[?#])`, 'i');
  changeAddresses(element, (url) => (ending.test(url) ? withExtension(url, to) : url));
}

/** Changes addresses in an element and in its children. */
export function changeAddresses(element: Element, change: (url: string) => string): void {
  for (const each of [element, ...element.childNodes.filter(isElement)])
    for (const target of each.attrs)
      if (target.name === 'src' || target.name === 'srcset')
        target.value = mapAddresses(target.name, target.value, change);
}

/** The element as a `picture`: itself, or one made around it. */
function asPicture(element: Element): Element {
  if (element.tagName === 'picture') return element;
  const picture = defaultTreeAdapter.createElement('picture', html.NS.HTML, []);
  defaultTreeAdapter.appendChild(picture, element);
  return picture;
}

function newSource(attrs: readonly (readonly [string, string | undefined])[]): Element {
  return defaultTreeAdapter.createElement(
    'source',
    html.NS.HTML,
    attrs.flatMap(([name, value]) => (value === undefined ? [] : [{ name, value }])),
  );
}

/**
 * Puts a source of another format before the image, and before each source that names no format; it has the same files, sizes and
 * media condition.
 * @returns the picture
 */
export function addSources(
  element: Element,
  { type, extension }: { type: string; extension: string },
): Element {
  const picture = asPicture(element);
  const twins = picture.childNodes.filter(isElement).filter((each) => !attribute(each, 'type'));
  const typed = picture.childNodes.filter(isElement).find((each) => attribute(each, 'type'));
  for (const twin of twins) {
    const files = attribute(twin, 'srcset') ?? attribute(twin, 'src');
    if (!files || files.value.startsWith('data:')) continue;
    const source = newSource([
      ['type', type],
      ['media', attribute(twin, 'media')?.value],
      ['srcset', mapAddresses(files.name, files.value, (url) => withExtension(url, extension))],
      ['sizes', attribute(twin, 'sizes')?.value],
    ]);
    // Sources of formats in between would be taken first.
    const before = twin.tagName === 'img' && typed && !attribute(typed, 'media') ? typed : twin;
    defaultTreeAdapter.insertBefore(picture, source, before);
  }
  return picture;
}

export function addStill(element: Element, { media, srcset }: { media: string; srcset: string }): Element {
  const picture = asPicture(element);
  const source = newSource([
    ['media', media],
    ['srcset', srcset],
  ]);
  const first = picture.childNodes[0];
  if (first) defaultTreeAdapter.insertBefore(picture, source, first);
  else defaultTreeAdapter.appendChild(picture, source);
  return picture;
}
