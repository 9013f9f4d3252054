// Compiles the modules, bundles the scripts that run inside measured pages into one file each, and bundles the program: to read some six
// hundred modules one by one takes longer than most commands do.
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
const inPage = ['in-page', 'page-timers'];
await build({
  absWorkingDir: root,
  entryPoints: {
    'in-page': 'src/browser/in-page/index.ts',
    'page-timers': 'src/browser/in-page/page-timers.ts',
  },
  outdir: 'dist/src/browser',
  bundle: true,
  format: 'iife',
  target: 'chrome100',
  logLevel: 'warning',
});
await bundleProgram(root);
for (const name of inPage)
  copyFileSync(`${root}/dist/src/browser/${name}.js`, `${root}/dist/program/${name}.js`);
chmodSync(`${root}/dist/program/yukkuri.js`, 0o755);
