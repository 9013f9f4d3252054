import { dirname, resolve } from 'node:path';
import { cosmiconfig, defaultLoaders, type CosmiconfigResult, type PublicExplorer } from 'cosmiconfig';
import { parse } from 'yaml';
import { causeInWords } from '../../core/wording/words.js';
import { UsageError } from '../errors.js';
import { checkSettings, type OptionFields, type Settings } from './schema.js';

const name = 'yukkuri';
const endings = ['json', 'yaml', 'yml', 'js', 'mjs', 'ts'];

export interface Configuration {
  file: string;
  settings: Settings;
}

/** YAML 1.2, in which a day is a text. */
const loadYaml = (_: string, content: string): unknown => parse(content);

/** Files of settings are programs where they end so: they may be written in TypeScript too. */
async function loadModule(path: string): Promise<unknown> {
  // Read only where it is needed: it takes a while.
  const { createJiti } = await import('jiti');
  return createJiti(import.meta.url, { fsCache: false }).import(path, { default: true });
}

/**
 * Finds the configuration that holds in a folder, in it or in those above it, or reads the one that was named.
 * @param optionFields the options of the audit, which have the same names in a file
 * @throws {UsageError} saying what is wrong with it
 */
export async function loadConfiguration(
  given: string | undefined,
  optionFields: OptionFields,
  folder = process.cwd(),
): Promise<Configuration | undefined> {
  const explorer = cosmiconfig(name, {
    searchPlaces: ['package.json', ...endings.map((ending) => `${name}.config.${ending}`)],
    searchStrategy: 'none',
    loaders: {
      ...defaultLoaders,
      '.yaml': loadYaml,
      '.yml': loadYaml,
      '.ts': loadModule,
      '.js': loadModule,
      '.mjs': loadModule,
    },
  });
  try {
    const found =
      given === undefined
        ? await searchUpwards(explorer, folder)
        : await explorer.load(resolve(folder, given));
    if (!found || found.isEmpty) return undefined;
    const { filepath: file } = found;
    const settings = checkSettings(found.config, file, optionFields);
    return { file, settings: relativeTo(dirname(file), settings) };
  } catch (cause) {
    if (cause instanceof UsageError) throw cause;
    throw new UsageError(
      `The configuration${given === undefined ? '' : ` "${given}"`} cannot be read: ${causeInWords(cause)}`,
      { cause },
    );
  }
}

/** In the folder, then in each above it; never in a user’s own settings, which no one else has. */
async function searchUpwards(explorer: PublicExplorer, folder: string): Promise<CosmiconfigResult> {
  const found = await explorer.search(folder);
  const above = dirname(folder);
  return found && !found.isEmpty ? found : above === folder ? null : searchUpwards(explorer, above);
}

/** Files that settings name lie beside the configuration, wherever the program is started. */
function relativeTo(folder: string, settings: Settings): Settings {
  const placed = { ...settings };
  for (const key of ['traffic', 'baseline', 'browser', 'headers', 'cookies', 'sitemap'])
    if (typeof placed[key] === 'string' && !/^https?:/i.test(placed[key]))
      placed[key] = resolve(folder, placed[key]);
  return placed;
}
