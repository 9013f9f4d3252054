import type { Command } from 'commander';
import picomatch from 'picomatch';
import type { ExceptionRule } from '../../core/judging/exceptions.js';
import type { Limit } from '../../core/limits/limits.js';
import { UsageError } from '../errors.js';
import { isSelector } from '../selectors.js';
import { parseBytes } from './bytes.js';
import { loadConfiguration } from './load.js';
import type { LimitSettings, OptionFields, Settings } from './schema.js';

/** The options that hold, and what only a configuration can say. */
export interface Settled {
  options: Record<string, unknown>;
  /** Path of the configuration; undefined without one. */
  file: string | undefined;
  exceptions: ExceptionRule[];
  limits: Limit[];
}

/**
 * Settings of the configuration with the options of the command line over them.
 * @param fields the options of the audit
 * @throws {UsageError} saying what is wrong with the configuration
 */
export async function settle(command: Command, fields: OptionFields): Promise<Settled> {
  const { config, ...options } = command.opts<Record<string, unknown> & { config: string | boolean }>();
  const found =
    config === false
      ? undefined
      : await loadConfiguration(typeof config === 'string' ? config : undefined, fields);
  const settings = found?.settings ?? {};
  for (const [name, value] of Object.entries(settings))
    if (name in fields && command.getOptionValueSource(name) !== 'cli') options[name] = value;
  if (settings.screens && command.getOptionValueSource('screen') !== 'cli')
    options['screen'] = screenTexts(settings.screens);
  return {
    options,
    file: found?.file,
    exceptions: exceptionsOf(settings, found?.file ?? ''),
    limits: (settings.limits ?? []).map(limitOf),
  };
}

const screenTexts = (screens: NonNullable<Settings['screens']>): string[] =>
  Object.entries(screens).map(([name, { width, height, density, touch, share }]) =>
    [
      `${name}=${width}x${height}${density === undefined ? '' : `@${density}`}`,
      ...(touch ? ['touch'] : []),
      ...(share === undefined ? [] : [`share=${share}`]),
    ].join(','),
  );

/** Paths of pages by a pattern: `/huts/**`. */
function pagesBy(pattern: string | undefined): ((page: string) => boolean) | undefined {
  return pattern === undefined ? undefined : picomatch(pattern, { dot: true });
}

function exceptionsOf({ leave = [] }: Settings, file: string): ExceptionRule[] {
  return leave.map(({ check, pages, selector, below, reason, until }, index) => {
    if (selector !== undefined && !isSelector(selector))
      throw new UsageError(`"${file}": leave[${index}].selector is no CSS selector: ${selector}`);
    const holdsOn = pagesBy(pages);
    return {
      check,
      ...(holdsOn ? { holdsOn } : {}),
      selector,
      below: below === undefined ? undefined : parseBytes(below),
      reason,
      until,
    };
  });
}

function limitOf({ pages, screens, shift, checks, ...amounts }: LimitSettings): Limit {
  const bytes = (amount: number | string | undefined) =>
    amount === undefined ? undefined : parseBytes(amount);
  return {
    holdsOn: pagesBy(pages) ?? (() => true),
    screens,
    firstView: bytes(amounts.firstView),
    expected: bytes(amounts.expected),
    whole: bytes(amounts.whole),
    saved: bytes(amounts.saved),
    shift,
    checks,
  };
}
