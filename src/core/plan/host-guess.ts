import type { HostGuess, ImageFile } from '../run/types.js';
import type { ImageHosts } from './image-host.js';

/** Two widths of one picture may be two files; only addresses that differ in nothing but a width are a sign. */
const leastWidths = 2;

/**
 * Guesses from addresses that differ only in one number, which is the width of what they give, that a host resizes by address. Nothing is
 * done with it: it is told, with what to try.
 * @param candidates by picture: the addresses that its markup offers
 */
export function guessHosts(
  candidates: Iterable<readonly string[]>,
  files: ReadonlyMap<string, ImageFile>,
  hosts: ImageHosts | undefined,
): HostGuess[] {
  const found = new Map<string, Set<string>>();
  for (const addresses of candidates) {
    const alike = new Map<string, Set<number>>();
    const own = new Map<string, string>();
    for (const address of addresses) {
      const width = files.get(address)?.width ?? 0;
      if (width === 0 || hosts?.at(address)) continue;
      for (const { rest, template } of numbersIn(address, width)) {
        alike.set(rest, (alike.get(rest) ?? new Set()).add(width));
        own.set(rest, template);
      }
    }
    for (const [rest, widths] of alike) {
      const template = own.get(rest);
      if (template === undefined || widths.size < leastWidths) continue;
      found.set(template, (found.get(template) ?? new Set()).add(rest));
    }
  }
  return [...found]
    .map(([template, pictures]) => ({ template, pictures: pictures.size }))
    .sort((a, b) => b.pictures - a.pictures || (a.template < b.template ? -1 : 1));
}

/** Places of an address in which a width stands: a parameter, or a part of the path that is nothing but a name and the number. */
function numbersIn(address: string, width: number): { rest: string; template: string }[] {
  const [, path = '', search = ''] = /^([^?#]*)\??([^#]*)/.exec(address) ?? [];
  const places: { rest: string; template: string }[] = [];
  const origin = /^https?:\/\/[^/]+/i.exec(path)?.[0] ?? '';
  for (const pair of search.split('&')) {
    const [, name = '', value = ''] = /^([^=]+)=(\d{2,5})$/.exec(pair) ?? [];
    if (Number(value) === width && !/quality|^q$/i.test(name))
      places.push({
        rest: address.replace(pair, `${name}=`),
        template: `${origin}/{+path}?${name}={width}`,
      });
  }
  const segments = path.slice(origin.length).split('/');
  segments.slice(0, -1).forEach((segment, index) => {
    const [, before = '', value = '', after = ''] =
      /^([A-Za-z]*[_=:-]?)(\d{2,5})((?:,\S*)?)$/.exec(segment) ?? [];
    if (Number(value) !== width || after.includes('{')) return;
    const head = segments.slice(0, index).join('/');
    const rest = [head, `${before}#${after}`, ...segments.slice(index + 1)].join('/');
    places.push({
      rest: `${origin}${rest}?${search}`,
      template: `${origin}${head}/${before}{width}${after}/{+path}`,
    });
  });
  return places;
}
