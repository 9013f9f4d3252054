import '../core/wording/schema-words.js';
import type { Command } from 'commander';
import { array, boolean, mixed, number, object, string, type InferType } from 'yup';
import type { Preparation } from '../browser/index.js';
import { collect } from './collect.js';
import { isSelector } from './selectors.js';

const texts = () => array().of(string().required()).default([]);
const selectorRule = (option: string) =>
  [
    'selector',
    `${option} must be a CSS selector`,
    (text: string | undefined) => text === undefined || isSelector(text),
  ] as const;

/** What every command takes that looks at a site: what of it, and how it is asked. */
export const targetFields = {
  basePath: string(),
  fallback: string(),
  sitemap: string(),
  follow: mixed<string | number | true>().test(
    'follow',
    '--follow must be a number of links, such as 3, or nothing',
    (value) => value === undefined || value === true || /^\d{1,3}$/.test(String(value)),
  ),
  skip: texts(),
  keep: texts(),
  mostPages: number().integer().min(1).max(100_000).label('--most-pages'),
  ignoreRobots: boolean().default(false),
  headers: string(),
  header: texts(),
  cookies: string(),
  insecure: boolean().default(false),
  pause: number().min(0).max(60_000).label('--pause'),
  allow: texts(),
  imageHost: texts(),
  waitFor: string().test(...selectorRule('--wait-for')),
  click: array()
    .of(
      string()
        .required()
        .test(...selectorRule('--click')),
    )
    .default([]),
};

export const targetSchema = object(targetFields);
export type TargetFlags = InferType<typeof targetSchema>;

export function addTargetOptions(command: Command): Command {
  return command
    .option(
      '--base-path <path>',
      'path below which the site lies on its host, such as /docs/ (/ if left out)',
    )
    .option(
      '--fallback <file>',
      'of a folder: file that your host sends for paths without a file of their own, for single-page sites; name their paths with --page',
    )
    .option(
      '--sitemap <file>',
      'of an address: the pages that this sitemap names, an address or a file: XML, an index, packed, or a list',
    )
    .option(
      '--follow [links]',
      'of an address: all pages that links lead to, so many links away (all if left out)',
    )
    .option(
      '--skip <pattern>',
      'of an address: no pages whose path is like this, such as /archive/** ; may be given several times',
      collect,
    )
    .option(
      '--keep <pattern>',
      'of an address: only pages whose path is like this; may be given several times',
      collect,
    )
    .option('--most-pages <number>', 'of an address: at most so many pages (500 if left out)')
    .option('--ignore-robots', 'with --follow: also what robots.txt and nofollow ask not to follow')
    .option(
      '--header <header>',
      'of an address: send this to the site’s own host, such as "Authorization: Bearer …"; may be given several times',
      collect,
    )
    .option(
      '--headers <file>',
      'of a folder: the headers that its host sends, a path in a line and below it, indented, "Name: value"',
    )
    .option(
      '--cookies <file>',
      'of an address: send the cookies of this file, a line for each, divided by tabs',
    )
    .option('--insecure', 'of an address: take certificates that nobody vouches for')
    .option('--pause <ms>', 'of an address: wait so long between two requests')
    .option('--allow <host>', 'let pages ask this host, wherever it is; may be given several times', collect)
    .option(
      '--image-host <template>',
      'pictures at such addresses come in any width: a URI Template with {path}, {width} and, where there are such, {height}, {format}, {quality}; may be given several times',
      collect,
    )
    .option('--wait-for <selector>', 'look at a page once something matches this CSS selector')
    .option(
      '--click <selector>',
      'click on this before a page is looked at, such as what closes a dialog; may be given several times',
      collect,
    );
}

/** What is done with each page before it is looked at; undefined for nothing. */
export function preparationOf({
  waitFor,
  click,
}: Pick<TargetFlags, 'waitFor' | 'click'>): Preparation | undefined {
  return waitFor === undefined && click.length === 0 ? undefined : { waitFor, click };
}
