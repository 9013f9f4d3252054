// Compiles the modules, bundles the scripts that run inside measured pages into one file each, and bundles the program: hundreds of
// modules that are read one by one make every start slow. With --program types are neither checked nor written, and only what the program itself
// needs is made.
import { execFile } from 'node:child_process';
import { chmodSync, copyFileSync, rmSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { promisify } from 'node:util';
import { build } from 'esbuild';
import { bundleProgram } from './bundle-program.mjs';

const root = fileURLToPath(new URL('..', import.meta.url));
const compiler = fileURLToPath(import.meta.resolve('typescript/bin/tsc'));
const compile = async (project) => {
  try {
    await promisify(execFile)(process.execPath, [compiler, '-p', project], { cwd: root });
  } catch (cause) {
    process.stderr.write(`${cause.stdout ?? ''}${cause.stderr ?? ''}`);
    process.exit(1);
  }
};

const programOnly = process.argv.includes('--program');
rmSync(`${root}/dist`, { recursive: true, force: true });
// The compiler takes longer than all the rest: both are made side by side.
const compiled = programOnly
  ? build({
      absWorkingDir: root,
      entryPoints: ['demo/**/*.ts'],
      outbase: '.',
      outdir: 'dist',
      format: 'esm',
      target: 'node20.19',
      logLevel: 'warning',
    })
  : Promise.all(['tsconfig.in-page.json', 'tsconfig.json'].map(compile));
const inPage = {
  'in-page': 'src/browser/in-page/index.ts',
  'page-timers': 'src/browser/in-page/page-timers.ts',
};
await build({
  absWorkingDir: root,
  entryPoints: inPage,
  outdir: 'dist/src/browser',
  bundle: true,
  format: 'iife',
  target: 'chrome100',
  logLevel: 'warning',
});
await build({
  absWorkingDir: root,
  entryPoints: { 'report-page': 'src/report/html/in-page/report-page.ts' },
  outdir: 'dist/src/report/html',
  bundle: true,
  minify: true,
  format: 'iife',
  target: 'chrome100',
  logLevel: 'warning',
});
await bundleProgram(root);
for (const name of Object.keys(inPage))
  copyFileSync(`${root}/dist/src/browser/${name}.js`, `${root}/dist/program/${name}.js`);
copyFileSync(`${root}/dist/src/report/html/report-page.js`, `${root}/dist/program/report-page.js`);
chmodSync(`${root}/dist/program/yukkuri.js`, 0o755);
await compiled;
