import { create } from 'xmlbuilder2';
import { checks } from '../core/checks/index.js';
import type { Finding, Run } from '../core/run/index.js';
import { count } from '../core/wording/words.js';
import { plainText } from './plain-text.js';

/** What XML 1.0 cannot hold, section 2.2: plain texts hold none of the others. */
const outsideXml = /[\ufffe\uffff]|[\ud800-\udbff](?![\udc00-\udfff])|(?<![\ud800-\udbff])[\udc00-\udfff]/g;
const safe = (text: string) => plainText(text).replace(outsideXml, '\ufffd');

/** A report of many failures says the same many times. */
const mostTold = 50;

/** The findings of a run as JUnit XML: a suite for each page, a case for each check, and one for whether the page was seen whole. */
export function runAsJunit(run: Readonly<Run>): string {
  const pageOf = new Map(run.placements.map(({ id, page }) => [id, page]));
  const byPage = new Map<string, Map<string, Finding[]>>();
  for (const finding of run.findings) {
    const page = pageOf.get(finding.placement) ?? '';
    const own = byPage.get(page) ?? new Map<string, Finding[]>();
    byPage.set(page, own.set(finding.check, [...(own.get(finding.check) ?? []), finding]));
  }
  const root = create({ version: '1.0', encoding: 'UTF-8' }).ele('testsuites');
  run.pages.forEach(({ path, weight }, index) => {
    const found = byPage.get(path) ?? new Map<string, Finding[]>();
    const unseen = run.incomplete.filter(({ page }) => page === path);
    const suite = root.ele('testsuite', {
      name: safe(path),
      package: 'yukkuri',
      id: index,
      hostname: 'localhost',
      timestamp: run.meta.startedAt.slice(0, 19),
      time: 0,
      tests: checks.length + 1,
      failures: found.size,
      errors: unseen.length > 0 ? 1 : 0,
    });
    suite.ele('properties').ele('property', { name: 'share-of-visits', value: weight.toFixed(4) });
    for (const { id } of checks) {
      const own = found.get(id);
      const test = suite.ele('testcase', { classname: safe(path), name: id, time: 0 });
      if (own)
        test
          .ele('failure', { type: id, message: `${count(own.length, 'image')}: ${safe(own[0]?.says ?? '')}` })
          .txt(told(own.map(({ placement, says }) => `${placement}: ${says}`)));
    }
    const seen = suite.ele('testcase', { classname: safe(path), name: 'seen-whole', time: 0 });
    if (unseen.length > 0)
      seen
        .ele('error', { type: 'incomplete', message: safe(unseen[0]?.why ?? '') })
        .txt(told(unseen.map(({ screen, why }) => `${screen ?? 'all screens'}: ${why}`)));
    suite.ele('system-out');
    suite.ele('system-err');
  });
  return `${root.end({ prettyPrint: true })}\n`;
}

function told(lines: readonly string[]): string {
  const shown = lines.slice(0, mostTold).map(safe);
  const left = lines.length - shown.length;
  return [...shown, ...(left > 0 ? [`${left} more`] : [])].join('\n');
}
