import { mkdir, readFile, writeFile } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { array, number, object, string } from 'yup';
import type { Run } from '../core/run/index.js';
import type { Site } from '../site/index.js';
import { UsageError } from './errors.js';
import { cacheFolder } from './price-options.js';

const schema = object({
  site: string().required(),
  fixes: array(
    object({
      id: string().required(),
      pictures: array(
        object({ file: string().required(), widths: array(number().required()).required() }),
      ).required(),
    }),
  ).required(),
});

/** A picture of which a fix asks for new files. */
export interface FixedPicture {
  file: string;
  /** Device px of the files to make. */
  widths: number[];
}

const place = () => join(dirname(cacheFolder()), 'last-audit.json');

/** Notes which pictures the fixes of an audit are about, so that one can be looked at by its fix. What cannot be kept is let go. */
export async function rememberAudit(site: Site, { fixes }: Run): Promise<void> {
  const told = fixes.map(({ id, files }) => {
    const widths = new Map<string, Set<number>>();
    for (const { from, width } of files) {
      const file = site.fileAt(from);
      if (file === undefined) continue;
      const path = join(site.root, file);
      widths.set(path, (widths.get(path) ?? new Set()).add(width));
    }
    const pictures = [...widths].map(([file, own]) => ({ file, widths: [...own].sort((a, b) => a - b) }));
    return { id, pictures };
  });
  try {
    await mkdir(dirname(place()), { recursive: true });
    await writeFile(place(), JSON.stringify({ site: site.root, fixes: told }));
  } catch {
    // Without it a fix cannot be weighed by its name; that is said then.
  }
}

/**
 * The pictures of a fix of the last audit, those first of which it lists files first.
 * @throws {UsageError} when no audit is remembered, or the last one has no such fix
 */
export async function picturesOfFix(id: string): Promise<FixedPicture[]> {
  const text = await readFile(place(), 'utf8').catch(() => undefined);
  const known = text === undefined ? undefined : await schema.validate(parsed(text)).catch(() => undefined);
  if (!known) throw new UsageError('No audit is remembered here. Run yukkuri audit <folder> first.');
  const fix = known.fixes.find((each) => each.id === id);
  if (!fix)
    throw new UsageError(
      `The last audit, of "${known.site}", has no fix "${id}". Its report shows the name of each fix behind its title.`,
    );
  if (fix.pictures.length === 0) throw new UsageError(`The fix "${id}" makes no new files of a picture.`);
  return fix.pictures;
}

function parsed(text: string): unknown {
  try {
    return JSON.parse(text) as unknown;
  } catch {
    return undefined;
  }
}
