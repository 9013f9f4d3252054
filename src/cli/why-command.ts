import { Command } from 'commander';
import { array, number, object, string, type InferType } from 'yup';
import type { WhyFacts } from '../core/judging/why.js';
import type { Placement, Run, Screen } from '../core/run/index.js';
import { checkOptions, readFlags, toAuditOptions, type AuditFlags } from './audit-options.js';
import { collect } from './collect.js';
import { UsageError } from './errors.js';
import { exitCodes, type ExitCode } from './exit-codes.js';
import { coloursOf, type Io } from './io.js';
import { ProgressBar } from './progress-bar.js';
import { isSavedRun, pageOfRun, readSavedRun } from './saved-run.js';
import { addLookOptions, lookFields } from './site-options.js';

const numbers = (label: string, low: number, high: number) =>
  array().of(number().min(low).max(high).required().label(label)).default([]);

const schema = object({
  ...lookFields,
  image: string(),
  screen: array().of(string().required()).default([]),
  width: numbers('--width', 320, 2560),
  density: numbers('--density', 0.25, 8),
});

export function whyCommand(io: Io, finish: (code: ExitCode) => void): Command {
  const command = new Command('why')
    .description(
      'Explain which file each screen takes for an image, why, and what it would take after the fix.',
    )
    .argument(
      '<target>',
      'the folder that your host serves, an address, or a saved run (.json), which answers at once',
    )
    .argument('<page>', 'the page, as its URL path or its file')
    .option('--image <url>', 'only images that may take a file whose address ends so')
    .option(
      '--screen <description>',
      'visit on this screen instead of the usual four; may be given several times',
      collect,
    )
    .option(
      '--width <px>',
      'tell of this viewport width too (320 to 2560), from the sweep; may be given several times',
      collect,
    )
    .option('--density <number>', 'with --width: at this pixel density (1, 2 and 3 if left out)', collect)
    .action(async (target: string, page: string, options: unknown) => {
      const flags = checkOptions(schema, options, 'why');
      const { whyReport, whyAsJson } = await import('../report/index.js');
      const { explainPlacement } = await import('../core/judging/why.js');
      const { run, facts, chosen } = isSavedRun(target)
        ? await fromRun(target, page, flags)
        : await fromSite(target, page, flags, io);
      const ending = flags.image;
      const reports = chosen
        .filter(({ kind }) => kind === 'img' || kind === 'picture')
        .filter(({ candidates }) => ending === undefined || candidates.some((url) => url.endsWith(ending)))
        .map((placement) => explainPlacement(placement, facts, run.ledger, sweptScreens(flags)));
      const { columns } = io.out;
      io.out.write(
        flags.json === undefined
          ? whyReport(reports, { columns, colours: coloursOf(io.out, io.environment) })
          : whyAsJson(reports),
      );
      const unseen = run.incomplete.filter(
        (each) => each.page === '' || run.pages.some(({ path }) => path === each.page),
      );
      for (const { page: path, screen, why } of unseen)
        io.err.write(`${path} on ${screen ?? 'all screens'}: ${why}\n`);
      finish(reports.length === 0 && unseen.length > 0 ? exitCodes.notFinished : exitCodes.done);
    });
  return addLookOptions(command);
}

type WhyFlags = InferType<typeof schema>;

interface Explained {
  run: Run;
  facts: WhyFacts;
  chosen: readonly Placement[];
}

async function fromSite(target: string, page: string, flags: WhyFlags, io: Io): Promise<Explained> {
  const { openTarget } = await import('./open-target.js');
  const { audit } = await import('../survey/index.js');
  const { whyFactsOf } = await import('../core/judging/why.js');
  const auditFlags = { ...readFlags({}), ...flags } as AuditFlags;
  const auditOptions = {
    ...toAuditOptions(auditFlags),
    ...(flags.match === undefined ? {} : { match: [flags.match] }),
  };
  const site = await openTarget([target], { ...flags, page: [page] });
  const progress = new ProgressBar(io);
  const { facts, run, matched } = await audit(site, auditOptions, progress).finally(async () => {
    progress.end();
    await site.close();
  });
  const ids = flags.match === undefined ? undefined : matched.get(flags.match);
  const chosen = facts.placements.filter(({ id }) => flags.match === undefined || ids?.has(id));
  return { run, facts: whyFactsOf(facts), chosen };
}

/** Of a run nothing is looked at anew: its screens, its pages. */
async function fromRun(file: string, page: string, flags: WhyFlags): Promise<Explained> {
  if (flags.match !== undefined || flags.screen.length > 0)
    throw new UsageError('--match and --screen need the site: give its folder instead of a saved run.');
  const { savedWhyFacts } = await import('../core/reporting/saved-facts.js');
  const whole = await readSavedRun(file);
  const own = pageOfRun(whole, page);
  const run = { ...whole, pages: whole.pages.filter(({ path }) => path === own) };
  return {
    run,
    facts: savedWhyFacts(whole),
    chosen: whole.placements.filter((placement) => placement.page === own),
  };
}

const usualDensities = [1, 2, 3];

/** Screens that are not visited: every width with every density. */
function sweptScreens({ width, density }: { width: number[]; density: number[] }): Screen[] {
  const densities = density.length > 0 ? density : usualDensities;
  return width.flatMap((each) =>
    densities.map((dense): Screen => ({
      name: `${each}@${dense}`,
      width: each,
      height: 900,
      density: dense,
      touch: false,
      share: 0,
    })),
  );
}
