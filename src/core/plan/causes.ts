import { cutOrder } from '../bytes/cuts.js';
import type { Run } from '../run/types.js';

/** One setting of an encoder, and how many files it is for. */
export interface CauseSetting {
  format: string;
  /** Lowest and highest quality; null for what has none. */
  quality: [low: number, high: number] | null;
  files: number;
}

/** What all fixes save for one reason. */
export interface Cause {
  /** Its place in the ledger. */
  kind: string;
  /** Expected bytes of an average visit; negative where they grow. */
  expected: number;
  /** Distinct downloads, and the pages on which they are. */
  pictures: number;
  pages: number;
  settings: CauseSetting[];
}

const recipes: Record<string, readonly string[]> = {
  'fewer-pixels': ['resized'],
  'better-encoding': ['equal-looks', 'cleaned'],
  'newer-format': ['equal-looks', 'animation'],
  metadata: ['bare'],
};

const newer = new Set(['avif', 'webp']);

/** The same bytes as the fixes', summed up by cause over the whole site: a quality or a format is often one line in a build. */
export function causesOf({ pages, screens, ledger, fixes }: Readonly<Run>): Cause[] {
  const weights = new Map(pages.map(({ path, weight }) => [path, weight]));
  const shares = new Map(screens.map(({ name, share }) => [name, share]));
  return cutOrder.flatMap((kind): Cause[] => {
    let expected = 0;
    const pictures = new Set<string>();
    const touched = new Set<string>();
    for (const { page, screen, url, cuts } of ledger)
      for (const cut of cuts) {
        if (cut.kind !== kind) continue;
        expected += (weights.get(page) ?? 0) * (shares.get(screen) ?? 0) * cut.expected;
        pictures.add(url);
        touched.add(page);
      }
    if (pictures.size === 0) return [];
    const files = [
      ...new Map(fixes.flatMap((fix) => fix.files).map((file) => [file.name, file])).values(),
    ].filter(
      ({ recipe, format }) =>
        recipes[kind]?.includes(recipe) &&
        (kind !== 'newer-format' || newer.has(format)) &&
        (kind !== 'better-encoding' || !newer.has(format)),
    );
    const formats = [...new Set(files.map(({ format }) => format))].sort();
    return [
      {
        kind,
        expected: Math.round(expected) || 0,
        pictures: pictures.size,
        pages: touched.size,
        settings: formats.map((format) => {
          const own = files.filter((file) => file.format === format);
          const qualities = own.flatMap(({ quality }) => quality ?? []);
          return {
            format,
            quality: qualities.length > 0 ? [Math.min(...qualities), Math.max(...qualities)] : null,
            files: own.length,
          };
        }),
      },
    ];
  });
}
