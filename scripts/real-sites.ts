/**
 * Mends sites of other people, and generated ones, and proves every promise on them: `npm run real`. Packages are fetched from the npm
 * registry and from Debian into a temporary folder, and nothing of them is kept. Needs a build. Arguments choose sites by a part of their name.
 */
import { mkdtemp, mkdir, readdir, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { execa } from 'execa';
import {
  grownBlog,
  hashedBuild,
  magazine,
  oddLayouts,
  blockKits,
  oddMarkup,
  shop,
  type SiteFiles,
} from '../test/support/templates/index.js';

interface Site {
  name: string;
  /** Brings the built site into a place. */
  fetch(place: string): Promise<string>;
  /** Pages to audit; all if left out. */
  pages?(folder: string): Promise<string[]>;
}

/** A package of the npm registry, where the built site lies in it, and the pages to audit if not all. */
const packed = (name: string, folder: string, pages?: readonly string[]): Site => ({
  name,
  ...(pages ? { pages: () => Promise.resolve([...pages]) } : {}),
  async fetch(place) {
    await execa('npm', ['pack', name, '--silent'], { cwd: place });
    const [archive = ''] = (await readdir(place)).filter((file) => file.endsWith('.tgz'));
    await execa('tar', ['xzf', archive], { cwd: place });
    return join(place, 'package', folder);
  },
});

const generated = (name: string, make: (seed: number) => Promise<SiteFiles>, seed: number): Site => ({
  name: `${name}, seed ${seed}`,
  async fetch(place) {
    for (const [path, content] of Object.entries(await make(seed))) {
      await mkdir(dirname(join(place, 'site', path)), { recursive: true });
      await writeFile(join(place, 'site', path), content);
    }
    return join(place, 'site');
  },
});

/** Forty pages of a manual of hundreds, from all over it. */
const manual: Site = {
  name: 'gimp-help-en, 40 pages',
  async fetch(place) {
    await execa('apt-get', ['download', 'gimp-help-en'], { cwd: place });
    const [archive = ''] = (await readdir(place)).filter((file) => file.endsWith('.deb'));
    await execa('dpkg-deb', ['-x', archive, 'manual'], { cwd: place });
    return join(place, 'manual/usr/share/gimp/2.0/help/en');
  },
  async pages(folder) {
    const all = (await readdir(folder)).filter((file) => file.endsWith('.html')).sort();
    return all.filter((_, index) => index % Math.floor(all.length / 40) === 8).slice(0, 40);
  },
};

const sites: readonly Site[] = [
  packed('startbootstrap-creative@7.0.7', 'dist'),
  packed('startbootstrap-agency@7.0.12', 'dist'),
  packed('startbootstrap-grayscale@7.0.6', 'dist'),
  packed('startbootstrap-clean-blog@6.0.9', 'dist'),
  packed('startbootstrap-landing-page@6.0.6', 'dist'),
  packed('material-kit@2.0.4', '.'),
  packed('blk-design-system@1.0.2', '.', ['examples/landing-page.html', 'examples/profile-page.html']),
  packed('paper-kit-2@2.1.0', '.', ['index.html']),
  packed('now-ui-kit@1.3.0', '.', ['index.html']),
  packed('bxslider@4.2.17', 'dist'),
  ...[1, 2, 3].flatMap((seed) => [
    generated('shop', shop, seed),
    generated('magazine', magazine, seed),
    generated('hashed build', hashedBuild, seed),
    generated('grown blog', grownBlog, seed),
    generated('odd layouts', oddLayouts, seed),
    generated('odd markup', oddMarkup, seed),
    generated('block kits', blockKits, seed),
  ]),
  manual,
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
    layout: { changes: unknown[]; pages: number; problems: unknown[] };
    lost: unknown[];
  } | null;
}

const program = fileURLToPath(new URL('../dist/program/yukkuri.js', import.meta.url));

const run = (args: string[]) =>
  execa(process.execPath, [program, ...args], { reject: false, maxBuffer: 500_000_000 });

/** How many fixes a second audit still finds to be pasted, and what they would save, bytes. */
async function leftToDo(copy: string, pages: readonly string[]): Promise<string> {
  const { stdout } = await run(['audit', copy, ...pages, '--encode', 'all', '--json']);
  const { fixes } = JSON.parse(stdout) as { fixes: { kind: string; saves: { expected: number } }[] };
  const edits = fixes.filter(({ kind }) => kind === 'edit');
  const bytes = edits.reduce((sum, { saves }) => sum + saves.expected, 0);
  return `${edits.length} (${(bytes / 1000).toFixed(1)} kB)`;
}

async function mendOne(site: Site, work: string): Promise<string[]> {
  const place = join(work, site.name.replace(/\W+/g, '-'));
  await mkdir(place);
  const folder = await site.fetch(place);
  const pages = ((await site.pages?.(folder)) ?? []).flatMap((page) => ['--page', `/${page}`]);
  const [copy, json] = [join(place, 'mended'), join(place, 'mend.json')];
  const began = Date.now();
  const { exitCode } = await run(['mend', folder, '--to', copy, ...pages, '--json', json]);
  const seconds = Math.round((Date.now() - began) / 1000);
  const { fixes, files, proof } = JSON.parse(await readFile(json, 'utf8')) as Output;
  const kept = Object.values(proof?.fixes ?? {}).filter((each) => each.kept).length;
  const screens = Object.values(proof?.screens ?? {});
  const { promised = 0, achieved = 0 } = proof?.average ?? {};
  const { went = 0, stayed = 0, appeared = [] } = proof?.findings ?? {};
  return [
    site.name,
    `${kept} of ${fixes.length}`,
    `${screens.filter((each) => each.kept).length} of ${screens.length}`,
    String(files.length),
    `${Math.round(promised / 1000)} kB`,
    `${Math.round(achieved / 1000)} kB`,
    `${went} / ${stayed} / ${appeared.length}`,
    `${proof?.layout.changes.length ?? 0} on ${proof?.layout.pages ?? 0}`,
    String(proof?.lost.length ?? 0),
    await leftToDo(copy, pages),
    `${seconds} s`,
    String(exitCode),
  ];
}

const headings = [
  'site',
  'fixes kept',
  'screens kept',
  'files made',
  'promised',
  'achieved',
  'findings gone / stayed / new',
  'boxes moved, on pages',
  'images lost',
  'left to do',
  'time',
  'exit code',
];

const parts = process.argv.slice(2);
const chosen = sites.filter(({ name }) => parts.length === 0 || parts.some((part) => name.includes(part)));
const work = await mkdtemp(join(tmpdir(), 'yukkuri-real-'));
try {
  console.log(`| ${headings.join(' | ')} |\n| ${headings.map(() => '---').join(' | ')} |`);
  for (const site of chosen)
    try {
      console.log(`| ${(await mendOne(site, work)).join(' | ')} |`);
    } catch (cause) {
      // A registry or an archive that is out of reach costs its own row only.
      console.log(
        `| ${site.name} | ${cause instanceof Error ? cause.message.split('\n')[0] : String(cause)} |`,
      );
      process.exitCode = 1;
    }
} finally {
  await rm(work, { recursive: true, force: true });
}
