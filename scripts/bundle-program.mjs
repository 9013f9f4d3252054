import { readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { build } from 'esbuild';

/** What holds compiled code, or finds files of its own beside itself. */
const stayPackages = ['sharp', '@sparticuz/chromium', 'tinypool', 'jiti', 'typescript'];

/** The demo draws its pictures with files beside its own. */
const keepDemo = {
  name: 'keep-demo',
  setup(bundler) {
    bundler.onResolve({ filter: /\/demo\/[\w-]+\.js$/ }, ({ path }) => ({
      path: `../demo/${path.replace(/^.*\//, '')}`,
      external: true,
    }));
  },
};

/** Of the packages that start a browser and speak with it, only the modules that do so: they install browsers and drive others too. */
const modulesOfDriver = {
  'puppeteer-core': 'puppeteer-core/lib/esm/puppeteer/cdp/Connection.js',
  '@puppeteer/browsers': '@puppeteer/browsers/lib/esm/launch.js',
};
const partsOfDriver = {
  name: 'parts-of-driver',
  setup(bundler) {
    bundler.onResolve({ filter: /^(puppeteer-core|@puppeteer\/browsers)$/ }, ({ path }) => ({
      path: join(bundler.initialOptions.absWorkingDir, 'node_modules', modulesOfDriver[path]),
    }));
    // What would download a browser is imported there, and not used.
    bundler.onResolve({ filter: /browser-data\.js$/ }, ({ path, resolveDir }) => ({
      path: join(resolveDir, path),
      sideEffects: false,
    }));
  },
};

/** A driver that tells nobody what it says to the browser: it made a logger anew for each message, though it is read by nobody. */
const silentDriver = {
  name: 'silent-driver',
  setup(bundler) {
    bundler.onLoad({ filter: /puppeteer-core\/lib\/esm\/puppeteer\/common\/Debug\.js$/ }, () => ({
      contents: 'export const debug = () => () => undefined;',
    }));
  },
};

/** Packages that make themselves a `require` to read their JSON files: without it the bundler puts these in. */
const inlineJson = {
  name: 'inline-json',
  setup(bundler) {
    bundler.onLoad(
      { filter: /node_modules\/css(o|-tree)\/lib\/(data|data-patch|version)\.js$/ },
      ({ path }) => ({
        contents: readFileSync(path, 'utf8').replace(
          /^const require = createRequire\(import\.meta\.url\);$/m,
          '',
        ),
      }),
    );
  },
};

/** Licences of packages ask to be kept with copies of them. */
function writeLicences(root, inputs) {
  const folders = new Set(
    Object.keys(inputs).flatMap(
      (file) => /^(?:.*\/)?node_modules\/(?:@[^/]+\/)?[^/]+(?=\/)/.exec(file)?.[0] ?? [],
    ),
  );
  const texts = [...folders].sort().map((folder) => {
    const { name, version, license } = JSON.parse(readFileSync(join(root, folder, 'package.json'), 'utf8'));
    const file = readdirSync(join(root, folder)).find((each) => /^licen[cs]e/i.test(each));
    const text = file ? readFileSync(join(root, folder, file), 'utf8').trim() : '';
    return `${name} ${version} (${license})\n\n${text}\n`;
  });
  writeFileSync(join(root, 'dist/program/LICENCES.txt'), texts.join(`\n${'-'.repeat(72)}\n\n`));
}

/** Writes the program, its worker and the packages they use into a few files. */
export async function bundleProgram(root) {
  const { metafile } = await build({
    absWorkingDir: root,
    entryPoints: {
      yukkuri: 'src/cli/bin.ts',
      // What the program does, without the process around it: tests run it within their own.
      main: 'src/cli/main.ts',
      'measure-worker': 'src/images/measure-worker.ts',
    },
    outdir: 'dist/program',
    bundle: true,
    splitting: true,
    platform: 'node',
    format: 'esm',
    target: 'node20.19',
    external: stayPackages,
    plugins: [keepDemo, inlineJson, partsOfDriver, silentDriver],
    banner: {
      js: `import { createRequire as requireFrom } from 'node:module'; const require = requireFrom(import.meta.url);`,
    },
    metafile: true,
    logLevel: 'warning',
  });
  writeLicences(root, metafile.inputs);
}
