/** How a site writes widths into file names. */
export interface NameStyle {
  /** What stands before the width. */
  separator: string;
  /** What stands behind it: `w`, `px`, `x480` as `height`, or nothing. */
  unit: '' | 'w' | 'px' | 'height';
}

/** The name of an image file, taken apart. */
export interface NameParts {
  /** With the slash at its end. */
  folder: string;
  /** Without width, density, hash and ending. */
  stem: string;
  /** How the file's own width stands in the name; undefined where it does not. */
  style: NameStyle | undefined;
  /** The density that the name tells, as in `logo@2x.png`. */
  density: number | undefined;
  ending: string;
}

export const usualStyle: NameStyle = { separator: '-', unit: '' };

const endings: Record<string, string> = { jpeg: 'jpg' };

/** The ending of file names of a format. */
export const endingOf = (format: string) => endings[format] ?? format;

/** What bundlers put into names: hexadecimal digits, or letters and digits of both cases in no order. */
const hash =
  /[-._](?:(?=[0-9a-f]*\d)(?=[0-9a-f]*[a-f])[0-9a-f]{8,40}|(?=\w*\d)(?=\w*[A-Z])(?=\w*[a-z])\w{8,12})$/;

/**
 * Takes the name of a file apart. A number is a width only if it is the file's own; what looks like the hash of a bundler is left out.
 * @param url path from the site's root
 * @param file device px
 */
export function readName(url: string, file: { width: number; height: number }): NameParts {
  const path = url.replace(/[?#].*$/s, '');
  const folder = path.slice(0, path.lastIndexOf('/') + 1);
  const [, whole = '', ending = ''] =
    /^(.*?)(?:\.([A-Za-z0-9]{1,5}))?$/s.exec(path.slice(folder.length)) ?? [];
  const name = withoutHash(whole);
  const sized = /^(.+)([-_.])(\d{2,5})x(\d{2,5})$/.exec(name);
  if (sized && Number(sized[3]) === file.width && Number(sized[4]) === file.height)
    return parts(folder, sized[1], ending, { separator: sized[2] ?? '-', unit: 'height' });
  const wide = /^(.+)([-_.@])(\d{2,5})(w|px)?$/.exec(name);
  if (wide && Number(wide[3]) === file.width)
    return parts(folder, wide[1], ending, {
      separator: wide[2] ?? '-',
      unit: (wide[4] ?? '') as NameStyle['unit'],
    });
  const dense = /^(.+)@(\d(?:\.\d+)?)x$/.exec(name);
  if (dense) return { ...parts(folder, dense[1], ending, undefined), density: Number(dense[2]) };
  return parts(folder, name, ending, undefined);
}

/** Whether a file's name holds what looks like the hash of a bundler: another content has another name. */
export function hasHash(url: string): boolean {
  const path = url.replace(/[?#].*$/s, '');
  return hash.test(path.slice(path.lastIndexOf('/') + 1).replace(/\.[A-Za-z0-9]{1,5}$/, ''));
}

/** A hash is left out, but never the whole name. */
function withoutHash(name: string): string {
  const short = name.replace(hash, '');
  return short === '' ? name : short;
}

function parts(folder: string, stem = '', ending: string, style: NameStyle | undefined): NameParts {
  return { folder, stem: withoutHash(stem), style, density: undefined, ending };
}

/** What a new file's name has to tell. */
export interface NameWish {
  /** Device px. */
  width: number;
  height: number;
  format: string;
  /** The master's own width, device px: a file of that width needs none in its name where the master's has none. */
  masterWidth: number;
  masterFormat: string;
  /** Tells apart versions of one width, for instance `light`. */
  label?: string;
  /** Of a file that is written with a density descriptor. */
  density?: number;
}

/** The best name for a version of a file that is not taken. */
export function freeName(
  master: NameParts,
  wish: NameWish,
  site: NameStyle,
  isTaken: (name: string) => boolean,
): string {
  const { folder, stem } = master;
  const ending = wish.format === wish.masterFormat && master.ending ? master.ending : endingOf(wish.format);
  const mark = markOf(master, wish, site);
  const name = (more: string) => `${folder}${stem}${mark}${more}.${ending}`;
  const labels = [wish.label, master.ending].flatMap((each) => (each ? [`-${each}`] : []));
  const free = ['', ...labels].map(name).find((each) => !isTaken(each));
  if (free !== undefined) return free;
  let count = 2;
  while (isTaken(name(`-v${count}`))) count++;
  return name(`-v${count}`);
}

function markOf(master: NameParts, wish: NameWish, site: NameStyle): string {
  if (master.density !== undefined && wish.density !== undefined && Number.isInteger(wish.density))
    return wish.density === 1 ? '' : `@${wish.density}x`;
  if (master.style === undefined && wish.width === wish.masterWidth)
    return master.density === undefined ? '' : `@${master.density}x`;
  const { separator, unit } = master.style ?? site;
  const size = unit === 'height' ? `${wish.width}x${wish.height}` : `${wish.width}${unit}`;
  return `${separator}${size}`;
}

/** The style that most of a site's names have; ties by the style's own text. */
export function styleOfSite(files: Iterable<{ url: string; width: number; height: number }>): NameStyle {
  const counts = new Map<string, { style: NameStyle; count: number }>();
  for (const file of files) {
    const { style } = readName(file.url, file);
    if (!style) continue;
    const key = `${style.separator}${style.unit}`;
    const entry = counts.get(key) ?? { style, count: 0 };
    entry.count++;
    counts.set(key, entry);
  }
  const [most] = [...counts].sort(([a, x], [b, y]) => y.count - x.count || (a < b ? -1 : 1));
  return most?.[1].style ?? usualStyle;
}
