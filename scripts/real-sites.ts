/**
 * Mends template sites of other people and proves every promise on them: `npm run real`. The packages are fetched from the npm registry into a
 * temporary folder, and nothing of them is kept. Needs a build.
 */
import { mkdtemp, mkdir, readdir, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { execa } from 'execa';

interface Site {
  name: string;
  /** Where the built site lies in the package. */
  folder: string;
}

const sites: readonly Site[] = [
  { name: 'startbootstrap-creative@7.0.7', folder: 'dist' },
  { name: 'startbootstrap-agency@7.0.12', folder: 'dist' },
  { name: 'startbootstrap-grayscale@7.0.6', folder: 'dist' },
  { name: 'startbootstrap-clean-blog@6.0.9', folder: 'dist' },
  { name: 'material-kit@2.0.4', folder: '.' },
];

interface Proved {
  promised: number;
  achieved: number;
  kept: boolean;
}

interface Output {
  fixes: unknown[];
  files: unknown[];
  proof: {
    average: Proved;
    screens: Record<string, Proved>;
    fixes: Record<string, Proved>;
    findings: { went: number; stayed: number; appeared: unknown[] };
    layout: unknown[];
  } | null;
}

const program = fileURLToPath(new URL('../dist/src/cli/bin.js', import.meta.url));

async function mendOne({ name, folder }: Site, work: string): Promise<string[]> {
  const place = join(work, name.replace(/\W+/g, '-'));
  await mkdir(place);
  await execa('npm', ['pack', name, '--silent'], { cwd: place });
  const [archive = ''] = (await readdir(place)).filter((file) => file.endsWith('.tgz'));
  await execa('tar', ['xzf', archive], { cwd: place });
  const began = Date.now();
  const { stdout, exitCode } = await execa(
    process.execPath,
    [program, 'mend', join(place, 'package', folder), '--to', join(place, 'mended'), '--json'],
    { reject: false, maxBuffer: 200_000_000 },
  );
  await writeFile(join(place, 'mend.json'), stdout);
  const { fixes, files, proof } = JSON.parse(await readFile(join(place, 'mend.json'), 'utf8')) as Output;
  const kept = Object.values(proof?.fixes ?? {}).filter((each) => each.kept).length;
  const screens = Object.values(proof?.screens ?? {});
  const { promised = 0, achieved = 0 } = proof?.average ?? {};
  return [
    name,
    `${kept} of ${fixes.length}`,
    `${screens.filter((each) => each.kept).length} of ${screens.length}`,
    String(files.length),
    `${Math.round(promised / 1000)} kB`,
    `${Math.round(achieved / 1000)} kB`,
    `${proof?.findings.went ?? 0} / ${proof?.findings.stayed ?? 0} / ${proof?.findings.appeared.length ?? 0}`,
    String(proof?.layout.length ?? 0),
    `${Math.round((Date.now() - began) / 1000)} s`,
    String(exitCode),
  ];
}

const work = await mkdtemp(join(tmpdir(), 'yukkuri-real-'));
try {
  console.log(
    '| site | fixes kept | screens kept | files made | promised | achieved | findings gone / stayed / new | layouts changed | time | exit code |',
  );
  for (const site of sites) console.log(`| ${(await mendOne(site, work)).join(' | ')} |`);
} finally {
  await rm(work, { recursive: true, force: true });
}
