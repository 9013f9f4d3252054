import { createHash } from 'node:crypto';
import { imageSequence, outlineOf, type Outline } from '../../core/templates/outline.js';
import { PageText } from '../../core/templates/top-model.js';
import { parsePage, readText, type Page } from '../../site/index.js';
import type { AuditContext } from '../context.js';
import { skeletonHash } from '../skeleton-hash.js';

/** A page as its file tells of it. */
export interface PageFile extends Page {
  outline: Outline;
  text: PageText;
  /** What relative addresses are resolved against: an absolute URL. */
  baseUrl: string;
  /** The same for pages of one template whose images stand in the same places; empty where it cannot be told. */
  template: string;
}

/** @returns undefined where the file cannot be read */
export async function readPageFile(
  { site, urls, faults, skeletons }: AuditContext,
  page: Page,
): Promise<PageFile | undefined> {
  const content = await site.read(page.file).catch(() => undefined);
  return (
    content &&
    faults.attempt('reading the page from its file', { page: page.path }, () => {
      const parsed = parsePage(readText(content));
      const outline = outlineOf(parsed.document);
      const own = site.origin + page.path;
      const baseUrl =
        outline.base !== undefined && URL.canParse(outline.base, own) ? new URL(outline.base, own).href : own;
      const skeleton = skeletonHash(parsed, urls, baseUrl);
      const scripts = outline.scripts.map((each) =>
        'src' in each ? urls.resolve(each.src, baseUrl) : each.code,
      );
      const template = hashOf(JSON.stringify([skeleton, imageSequence(outline), outline.head, scripts]));
      skeletons.set(page.path, skeleton);
      return { ...page, outline, text: new PageText(outline.blocks), baseUrl, template };
    })
  );
}

const hashOf = (text: string) => createHash('sha256').update(text).digest('hex');
