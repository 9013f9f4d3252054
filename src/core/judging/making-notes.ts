import type { PlannedFile } from '../plan/file-book.js';
import type { ImageFile } from '../run/types.js';
import { listed } from '../wording/words.js';

/** What whoever makes the files must not lose of their masters. */
export function makingNotes(made: readonly PlannedFile[], files: ReadonlyMap<string, ImageFile>): string[] {
  const mastersOf = (fits: (file: ImageFile, recipe: PlannedFile['recipe']) => boolean) => [
    ...new Set(
      made.flatMap(({ master, recipe }) => {
        const file = files.get(master);
        return file && fits(file, recipe) ? [file.url] : [];
      }),
    ),
  ];
  const turned = mastersOf((file, recipe) => file.turned && recipe === 'bare');
  const gainMapped = mastersOf(({ metadata }, recipe) => recipe !== 'bare' && 'gain map' in metadata);
  const wide = mastersOf(
    ({ metadata, colourSpace }, recipe) =>
      recipe !== 'bare' && colourSpace === 'srgb' && 'colour profile' in metadata,
  );
  return [
    ...note(turned, 'stored turned: keep the one note that says how, or store its pixels upright'),
    ...note(gainMapped, 'there is a gain map for bright screens: the new files were measured without one'),
    ...note(wide, 'there is a colour profile that says more than sRGB: the new files were measured in sRGB'),
  ];
}

const mostNamed = 3;

function note(urls: readonly string[], says: string): string[] {
  if (urls.length === 0) return [];
  const more = urls.length > mostNamed ? [`${urls.length - mostNamed} more`] : [];
  return [`${listed([...urls.slice(0, mostNamed), ...more])}: ${says}.`];
}
