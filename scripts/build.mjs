// Compiles the program, and bundles the scripts that run inside measured pages into one file each.
import { execFileSync } from 'node:child_process';
import { chmodSync, rmSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { build } from 'esbuild';

const root = fileURLToPath(new URL('..', import.meta.url));
const compiler = fileURLToPath(import.meta.resolve('typescript/bin/tsc'));
const compile = (project) =>
  execFileSync(process.execPath, [compiler, '-p', project], { cwd: root, stdio: 'inherit' });

rmSync(`${root}/dist`, { recursive: true, force: true });
compile('tsconfig.in-page.json');
compile('tsconfig.json');
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
chmodSync(`${root}/dist/src/cli/bin.js`, 0o755);
