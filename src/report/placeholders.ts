import { asJson } from './as-json.js';
import type { Placeholder } from '../core/run/index.js';
import { plainText } from './plain-text.js';

export type PlaceholderForm = 'css' | 'json' | 'attribute';

type Entry =
  { name: string; width: number; height: number; offer: Placeholder } | { name: string; why: string };

/** Placeholders as rules of a style sheet, as JSON, or as style attributes. Files that could not be read are left out but for JSON. */
export function writePlaceholders(entries: readonly Entry[], form: PlaceholderForm): string {
  if (form === 'json') return asJson({ format: 'yukkuri-placeholders/1', files: entries });
  const made = entries.filter((entry) => 'offer' in entry);
  return made.map((entry) => (form === 'css' ? asRule(entry) : asAttributes(entry))).join('\n');
}

type Made = Extract<Entry, { offer: Placeholder }>;

/** A class for each file, named after it; later declarations win where browsers know them. */
function asRule({ name, offer: { colour, gradient, inlined } }: Made): string {
  const lines = [`background: ${colour};`, `background: ${gradient};`];
  if (inlined !== null) lines.push(`background: center / cover url(${inlined});`);
  return `/* ${plainText(name).replaceAll('*/', '* /')}: keep one of these */\n.${classOf(name)} {\n${lines.map((line) => `  ${line}\n`).join('')}}\n`;
}

function asAttributes({ name, width, height, offer: { colour, gradient, inlined } }: Made): string {
  const size = `width="${width}" height="${height}"`;
  const styles = [colour, gradient, ...(inlined === null ? [] : [`center / cover url(${inlined})`])];
  return `${plainText(name)}\n${styles.map((style) => `  ${size} style="background: ${style}"\n`).join('')}`;
}

function classOf(name: string): string {
  const stem = name.replace(/^.*[/\\]/, '').replace(/\.[^.]*$/, '');
  return `awaiting-${stem.replace(/[^A-Za-z0-9_-]+/g, '-').toLowerCase()}`;
}
