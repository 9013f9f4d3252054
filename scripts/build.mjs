// Compiles the modules, bundles the scripts that run inside measured pages into one file each, and bundles the program: hundreds of
// modules that are read one by one make every start slow.
import { execFileSync } from 'node:child_process';
import { chmodSync, copyFileSync, rmSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { build } from 'esbuild';
import { bundleProgram } from './bundle-program.mjs';

const root = fileURLToPath(new URL('..', import.meta.url));
const compiler = fileURLToPath(import.meta.resolve('typescript/bin/tsc'));
const compile = (project) =>
  execFileSync(process.execPath, [compiler, '-p', project], { cwd: root, stdio: 'inherit' });

rmSync(`${root}/dist`, { recursive: true, force: true });
compile('tsconfig.in-page.json');
compile('tsconfig.json');
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
