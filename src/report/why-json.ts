import { asJson } from './as-json.js';
import type { WhyReport } from '../core/judging/why.js';

/** The same as the report of `yukkuri why`, as JSON. */
export function whyAsJson(reports: readonly WhyReport[]): string {
  const images = reports.map(({ placement, rows, faults, ledger }) => ({
    page: placement.page,
    selector: placement.selector,
    source: placement.source,
    markup: placement.markup,
    faults,
    ledger: ledger.map(({ screen, url, delivered, cuts, remains, expected, expectedRemains }) => ({
      screen,
      url,
      delivered,
      cuts: cuts.map(({ kind, bytes, expected: expectedBytes }) => ({
        kind,
        bytes,
        expected: expectedBytes,
      })),
      remains,
      expected,
      expectedRemains,
    })),
    screens: rows.map(({ screen, visited, slot, explained, url, observed, file, needed, instead }) => ({
      name: screen.name,
      width: screen.width,
      height: screen.height,
      density: screen.density,
      visited,
      slot: slot ?? null,
      sourceSize: explained?.pick.sourceSize ?? null,
      because: explained?.because ?? null,
      rule: explained?.rule ?? null,
      pick: url ?? null,
      observed: observed ?? null,
      olderBrowsers: explained?.olderBrowsers ?? null,
      candidates:
        explained?.pick.candidates.map(({ url: candidate, density }) => ({ url: candidate, density })) ?? [],
      fileWidth: file?.width ?? null,
      bytes: file?.bytes ?? null,
      needed: needed ?? null,
      instead: instead ?? null,
    })),
  }));
  return asJson({ format: 'yukkuri-why/1', images });
}
