import '../core/wording/schema-words.js';
import type { Command } from 'commander';
import { boolean, mixed, number, object, string, type InferType } from 'yup';
import type { BrowserOptions } from '../browser/index.js';
import { isSelector } from './selectors.js';
import { addTargetOptions, targetFields } from './target-options.js';

/** Options of commands that look at some images of a site. */
export const lookFields = {
  match: string().test(
    'selector',
    '--match must be a CSS selector',
    (text) => text === undefined || isSelector(text),
  ),
  ...targetFields,
  browser: string(),
  sandbox: boolean().default(true),
  pageLimit: number().min(1).max(3600).default(60).label('--page-limit'),
  json: mixed<string | true>(),
};

const schema = object(lookFields);
export type LookFlags = InferType<typeof schema>;

export function addLookOptions(command: Command): Command {
  return addTargetOptions(command)
    .option(
      '--match <selector>',
      'only images that this CSS selector matches, or that stand inside what it matches',
    )
    .option('--json', 'print the result as JSON')
    .option('--browser <path>', 'use this Chromium, Chrome or Edge')
    .option('--no-sandbox', 'switch off the browser’s own sandbox, where it cannot work')
    .option('--page-limit <seconds>', 'time limit for one page (60 if left out)');
}

export function browserOf({ browser, sandbox }: Pick<LookFlags, 'browser' | 'sandbox'>): BrowserOptions {
  return { ...(browser === undefined ? {} : { path: browser }), ...(sandbox ? {} : { sandbox: false }) };
}

export { schema as lookSchema };
