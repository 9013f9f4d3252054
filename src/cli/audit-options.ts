import '../core/wording/schema-words.js';
import type { Command } from 'commander';
import {
  boolean,
  number,
  object,
  string,
  array,
  mixed,
  ValidationError,
  type InferType,
  type Schema,
} from 'yup';
import type { ExceptionRule } from '../core/judging/exceptions.js';
import { ImageHost } from '../core/plan/image-host.js';
import { causeInWords } from '../core/wording/words.js';
import { defaultScreens, parseScreen } from '../core/run/index.js';
import { auditOptions } from '../library/audit-settings.js';
import type { AuditOptions } from '../survey/index.js';
import { collect } from './collect.js';
import { UsageError } from './errors.js';
import type { Io } from './io.js';
import { addOutputOptions, outputFields } from './outputs.js';
import { addTargetOptions, preparationOf, targetFields } from './target-options.js';
import { addPriceOptions, priceFields, toPriceOptions } from './price-options.js';

const texts = () => array().of(string().required()).default([]);

/** What every command that audits a site takes. */
export const auditFields = {
  page: texts(),
  screen: texts(),
  ...targetFields,
  browser: string(),
  sandbox: boolean().default(true),
  otherHosts: boolean().default(false),
  pageLimit: number().min(1).max(3600).default(30).label('--page-limit'),
  atOnce: number().integer().min(1).max(32).label('--at-once'),
  renewBrowser: number().integer().min(1).max(100_000).label('--renew-browser'),
  limit: string().matches(
    /^\d{1,6}(,\d{1,6})?$/,
    '--limit must be one number for both lists, or one for fixes that save bytes and one for those that do not, such as 10,5',
  ),
  by: string()
    .oneOf(['fix', 'cause', 'page', 'picture'], '--by must be fix, cause, page or picture')
    .default('fix'),
  json: mixed<string | true>(),
  baseline: string(),
  ...outputFields,
  ...priceFields,
};

const schema = object(auditFields);

export type AuditFlags = InferType<typeof schema>;

/** Adds the options that every command which audits a site takes. */
export function addAuditOptions(command: Command): Command {
  return addPriceOptions(
    addTargetOptions(addOutputOptions(command))
      .option('--page <path>', 'audit only this page; may be given several times', collect)
      .option(
        '--screen <description>',
        'use this screen instead of the usual four; may be given several times: phone=390x844@3,touch,share=0.6',
        collect,
      )
      .option(
        '--limit <fixes>',
        'show at most so many fixes that save bytes, and so many that do not: one number for both, or two such as 10,5 (10,5 if left out)',
      )
      .option(
        '--by <what>',
        'what the list is made of: fix (if left out); cause, over the whole site: a quality or a format is often one line in a build; page; or picture, each with its final tag and all its files',
      )
      .option(
        '--json [file]',
        'write the whole run as JSON to the file, or to standard output instead of the report',
      )
      .option('--browser <path>', 'use this Chromium, Chrome or Edge')
      .option('--no-sandbox', 'switch off the browser’s own sandbox, where it cannot work')
      .option('--other-hosts', 'let pages ask other hosts; they are refused if left out')
      .option('--page-limit <seconds>', 'time limit for one page on one screen (30 if left out)')
      .option(
        '--renew-browser <looks>',
        'start the browser anew after so many looks at pages, so that it does not grow (500 if left out)',
      )
      .option('--at-once <visits>', 'visits at once (twice as many as processors, at most 6, if left out)'),
  );
}

/** How many fixes of each list are shown. */
export function limitsOf({ limit = '10,5' }: Pick<AuditFlags, 'limit'>): { saving: number; felt: number } {
  const [saving = 0, felt = saving] = limit.split(',').map(Number);
  return { saving, felt };
}

/** @throws {UsageError} naming the option, what it should be and what it is */
export function readFlags(options: unknown): AuditFlags {
  return checkOptions(schema, options, 'audit');
}

/**
 * Checks options as Commander read them.
 * @throws {UsageError} naming the option, what it should be and what it is
 */
export function checkOptions<T>(rules: Schema<T>, options: unknown, command: string): T {
  try {
    return rules.validateSync(options);
  } catch (cause) {
    if (!(cause instanceof ValidationError)) throw cause;
    const given = JSON.stringify(cause.params?.['originalValue'] ?? cause.value);
    throw new UsageError(
      `${cause.errors[0] ?? cause.message}; got ${given}. See "yukkuri ${command} --help".`,
      {
        cause,
      },
    );
  }
}

/** @throws {UsageError} for a template that says too little, or something else */
function checkedTemplate(template: string): string {
  try {
    return new ImageHost(template).template;
  } catch (cause) {
    throw new UsageError(`--image-host ${causeInWords(cause)}; got "${template}".`, { cause });
  }
}

/** @throws {ScreenError} for a screen that makes no sense */
export function toAuditOptions(
  flags: AuditFlags,
  { interrupted }: Pick<Io, 'interrupted'> = {},
  exceptions: readonly ExceptionRule[] = [],
): AuditOptions {
  const prepare = preparationOf(flags);
  const { screen, browser, sandbox, pageLimit, atOnce, renewBrowser, otherHosts } = flags;
  return {
    ...auditOptions({
      screens: screen.length > 0 ? screen.map(parseScreen) : defaultScreens,
      browser: {
        ...(browser === undefined ? {} : { path: browser }),
        ...(sandbox ? {} : { sandbox: false }),
        ...(renewBrowser === undefined ? {} : { contextsEach: renewBrowser }),
      },
      pageLimitMs: pageLimit * 1000,
      ...(atOnce === undefined ? {} : { atOnce }),
      allowOtherHosts: otherHosts,
      exceptions,
      ...(interrupted ? { signal: interrupted } : {}),
    }),
    ...toPriceOptions(flags),
    ...(prepare ? { prepare } : {}),
    ...(flags.imageHost.length > 0 ? { imageHosts: flags.imageHost.map(checkedTemplate) } : {}),
  };
}
