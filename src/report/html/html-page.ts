import { createHash } from 'node:crypto';
import type { VNode } from 'preact';
import { renderToString } from 'preact-render-to-string';
import { plainText } from '../plain-text.js';
import { styleSheet } from './style-sheet.js';

/**
 * A page that asks nobody for anything. Only its own script may run. Content Security Policy Level 3, sections 6.1 and 6.6.
 * @param script its text; none if left out
 */
export function htmlPage(title: string, body: VNode, script?: string): string {
  const hash = script === undefined ? undefined : createHash('sha256').update(script).digest('base64');
  const policy = [
    `default-src 'none'`,
    'img-src data:',
    `style-src 'unsafe-inline'`,
    `script-src ${hash === undefined ? `'none'` : `'sha256-${hash}'`}`,
    `base-uri 'none'`,
    `form-action 'none'`,
  ].join('; ');
  const safeTitle = plainText(title).replaceAll('&', '&amp;').replaceAll('<', '&lt;');
  return [
    '<!doctype html>',
    '<html lang="en">',
    '<head>',
    '<meta charset="utf-8">',
    `<meta http-equiv="Content-Security-Policy" content="${policy}">`,
    '<meta name="viewport" content="width=device-width, initial-scale=1">',
    '<meta name="color-scheme" content="light dark">',
    '<meta name="referrer" content="no-referrer">',
    `<title>${safeTitle}</title>`,
    `<style>${styleSheet}</style>`,
    '</head>',
    `<body>${renderToString(body)}${script === undefined ? '' : `<script>${script}</script>`}</body>`,
    '</html>',
    '',
  ].join('\n');
}
