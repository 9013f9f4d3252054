import { join } from 'node:path';
import { createTwoFilesPatch } from 'diff';
import { chooseFixes, type Choice, type LeftOut } from '../core/mending/choose.js';
import type { Mended, WrittenFile } from '../core/mending/mended.js';
import { planEdits, type PlannedEdits } from '../core/mending/file-edits.js';
import { splice } from '../core/mending/places.js';
import { unseenCopies, type UnseenCopies } from '../core/mending/unseen-copies.js';
import { wasSeen } from '../core/bytes/visit-weights.js';
import type { Fix, Run } from '../core/run/index.js';
import type { MakeOptions } from '../images/index.js';
import { readEncodedText, writeEncodedText, type EncodedText, type Site } from '../site/index.js';
import type { Progress } from '../survey/index.js';
import { withCopy } from './copy.js';
import { MendError } from './errors.js';
import { renewIntegrity, type Contents } from './renew-integrity.js';
import { writeContent, writeFiles } from './write-files.js';

export interface MendOrder extends MakeOptions {
  site: Site;
  run: Readonly<Run>;
  choice: Choice;
  /** Once aborted no more files are made, and no copy is left. */
  interrupted?: AbortSignal | undefined;
}

interface PlannedMend {
  planned: PlannedEdits;
  left: LeftOut[];
  /** The edited files, before and after, each in its own encoding. */
  contents: Contents;
}

/**
 * Plans the edits of a run's fixes on a site as it is now.
 * @throws {MendError} for a fix that the run does not have
 */
export async function planMend({ site, run, choice }: MendOrder): Promise<PlannedMend> {
  const unknown = choice.ids?.find((id) => !run.fixes.some((fix) => fix.id === id));
  if (unknown !== undefined)
    throw new MendError(
      'NO_SUCH_FIX',
      `The run has no fix "${unknown}". The report shows the name of each fix behind its title.`,
    );
  const chosen = chooseFixes(run, choice);
  const texts = new Map<string, EncodedText | { why: string }>();
  const files = new Set(
    chosen.fixes.flatMap(({ places }) => places.flatMap(({ source }) => source?.file ?? [])),
  );
  for (const file of files) texts.set(file, await readAsText(site, file));
  const placements = new Map(run.placements.map((placement) => [placement.id, placement]));
  const planned = planEdits(chosen.fixes, placements, (file) => {
    const read = texts.get(file) ?? gone;
    if ('why' in read) return read;
    const { text, encoding } = read;
    return { text, takes: (edit) => writeEncodedText({ text: edit, encoding }) !== undefined };
  });
  const contents = new Map(
    [...planned.files].sort().flatMap(([file, splices]) => {
      const read = texts.get(file);
      if (!read || 'why' in read) return [];
      const before = writeEncodedText(read);
      const after = writeEncodedText({ ...read, text: splice(read.text, splices) });
      return before && after ? [[file, { before, after }] as const] : [];
    }),
  );
  await renewIntegrity(site, run, contents);
  return { planned, left: [...chosen.left, ...planned.left], contents };
}

/** What would be done, without writing anything. */
export async function tryMend(order: MendOrder): Promise<Mended> {
  const { planned, left, contents } = await planMend(order);
  const elsewhere = await copiesElsewhere(order, planned.made);
  const edited = [...contents.keys()];
  return { fixes: planned.made, left, edited, files: [], elsewhere, patch: patchOf(contents) };
}

/**
 * Makes the fixes of a run in a copy of the site. The site itself is only read.
 * @throws {MendError} when the copy cannot be made
 */
export async function mend(order: MendOrder, target: string, progress: Progress): Promise<Mended> {
  const { planned, left, contents } = await planMend(order);
  const made = await withCopy(order.site, target, async (copy) => {
    const written = await writeFiles(order.site, copy, order.run, planned.made, {
      ...makeOptions(order),
      interrupted: order.interrupted,
      progress,
    });
    const missing = new Set(written.filter(({ problem }) => problem !== null).map(({ name }) => name));
    // A text that names a file which could not be made would break its image: its fix is not made at all.
    const spoiled = planned.made.filter((fix) => fix.files.some(({ name }) => missing.has(name)));
    const whole =
      spoiled.length === 0
        ? { planned, contents }
        : await withoutFixes(order, planned.made, spoiled, left, written);
    for (const [file, { after }] of whole.contents) await writeContent(join(copy, file), after);
    return { ...whole, written };
  });
  return {
    fixes: made.planned.made,
    left,
    edited: [...made.contents.keys()],
    files: made.written,
    elsewhere: await copiesElsewhere(order, made.planned.made),
    patch: patchOf(made.contents),
  };
}

const makeOptions = ({ thorough = false, keepCredits = false }: MakeOptions): MakeOptions => ({
  thorough,
  keepCredits,
});

async function withoutFixes(
  order: MendOrder,
  made: readonly Fix[],
  spoiled: readonly Fix[],
  left: LeftOut[],
  written: readonly WrittenFile[],
): Promise<PlannedMend> {
  const out = new Set(spoiled.map(({ id }) => id));
  for (const { id, title, files } of spoiled) {
    const first = written.find(
      ({ name, problem }) => problem !== null && files.some((file) => file.name === name),
    );
    left.push({
      fix: id,
      title,
      why: `${first?.name ?? 'a file'} could not be made: ${first?.problem ?? ''}`,
      notes: [],
    });
  }
  const ids = made.filter(({ id }) => !out.has(id)).map(({ id }) => id);
  return planMend({ ...order, choice: { ids } });
}

const isPage = /\.x?html?$/i;

/** Pages and parts of pages that the audit did not look into may hold the same texts. */
async function copiesElsewhere({ site, run }: MendOrder, fixes: readonly Fix[]): Promise<UnseenCopies[]> {
  const seen = new Set(run.pages.flatMap(({ file, visits }) => (visits.some(wasSeen) ? [file] : [])));
  const unseen = new Map<string, string>();
  for (const name of site.names) {
    const file = site.fileAt(name);
    if (file === undefined || seen.has(file) || !isPage.test(file)) continue;
    const content = await readAsText(site, file);
    if ('text' in content) unseen.set(file, content.text);
  }
  return unseenCopies(fixes, new Map(run.placements.map((placement) => [placement.id, placement])), unseen);
}

const gone = { why: 'is not there any more' };

/** A file of which not every byte comes back would come out changed at places that nobody edits. */
async function readAsText(site: Site, file: string): Promise<EncodedText | { why: string }> {
  if (/^https?:/i.test(file)) return { why: 'is sent by another host' };
  const content = await site.read(file).catch(() => undefined);
  if (!content) return gone;
  return readEncodedText(content) ?? { why: 'holds bytes that are no characters of its encoding' };
}

const context = 3;

/** Byte by byte, since each file has an encoding of its own. */
function patchOf(contents: Contents): Buffer {
  const patches = [...contents]
    .filter(([, { before, after }]) => !before.equals(after))
    .map(([file, { before, after }]) => {
      const name = Buffer.from(file).toString('latin1');
      const [old, now] = [before.toString('latin1'), after.toString('latin1')];
      const patch = createTwoFilesPatch(`a/${name}`, `b/${name}`, old, now, '', '', { context });
      return patch.replace(/^=+\n/, '');
    });
  return Buffer.from(patches.join(''), 'latin1');
}
