import pLimit from 'p-limit';
import { groupBy } from '../core/grouping.js';
import { looksLike } from '../core/likeness/index.js';
import { shapeDifference } from '../core/plan/shape-difference.js';
import { readName } from '../core/plan/file-names.js';
import type { ImageFile, Placement } from '../core/run/index.js';
import { tinyLook } from '../images/index.js';
import type { AuditContext } from './context.js';

/** Files of these formats may be versions of each other. */
const formats = /\.(jpe?g|png|webp|avif)$/i;

/** Two shapes that differ by more than this are two crops. */
const sameShape = 0.015;

/** So many versions of one picture are looked at; a folder of thousands of pictures with one name in common is no ladder. */
const mostVersions = 40;

/** So many pictures are decoded at once: each may take a quarter of a gigabyte. */
const decodedAtOnce = 2;

/**
 * Finds files that show the same picture as one that a page shows, among those with the same name but for width, format and hash. The name
 * only says where to look: what counts is what they show.
 */
export async function findTwins(
  context: AuditContext,
  placements: readonly Placement[],
): Promise<Map<string, string[]>> {
  const { images, site } = context;
  const byFolder = groupBy(
    site.names.filter((each) => formats.test(each)),
    (name) => name.slice(0, name.lastIndexOf('/') + 1),
  );
  const shown = new Set(placements.flatMap(({ candidates }) => candidates));
  const lookOf = looksIn(context);
  const found = [...shown].sort().map(async (url): Promise<[string, string[]]> => {
    const file = images.fileOf(url);
    if (!file || file.problem !== undefined || file.width === 0 || file.animated) return [url, []];
    const { folder, stem } = readName(url, file);
    const near = (byFolder.get(folder) ?? []).filter(
      (name) => name !== url && name.startsWith(`${folder}${stem}`),
    );
    if (near.length === 0 || near.length > mostVersions) return [url, []];
    await images.read(near);
    const alike = near.map(async (name) => {
      const other = images.fileOf(name);
      if (!other || !mayShowTheSame(file, other, stem)) return [];
      return looksLike(...(await Promise.all([lookOf(file), lookOf(other)]))) ? [name] : [];
    });
    return [url, (await Promise.all(alike)).flat()];
  });
  return new Map((await Promise.all(found)).filter(([, alike]) => alike.length > 0));
}

function mayShowTheSame(file: ImageFile, other: ImageFile, stem: string): boolean {
  if (other.problem !== undefined || other.width === 0 || other.animated || other.width > file.width)
    return false;
  if (readName(other.url, other).stem !== stem) return false;
  return shapeDifference(file, other) <= sameShape + 1 / Math.min(file.height, other.height);
}

const isLook = (value: unknown): value is number[] => Array.isArray(value);

/** What files show, each asked for once. What does not decode looks like nothing. */
function looksIn({ site, images }: AuditContext): (file: ImageFile) => Promise<number[]> {
  const fewAtOnce = pLimit(decodedAtOnce);
  const known = new Map<string, Promise<number[]>>();
  const look = ({ url, hash }: ImageFile) =>
    fewAtOnce(async () => {
      const file = site.fileAt(url);
      if (file === undefined) return [];
      return images.cache.remember(hash, 'look', isLook, async () => tinyLook(await site.read(file)));
    }).catch(() => []);
  return (file) => {
    const looking = known.get(file.hash) ?? look(file);
    known.set(file.hash, looking);
    return looking;
  };
}
