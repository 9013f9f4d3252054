import { boolean, mixed, number, string } from 'yup';
import { againSchema, answerSchema } from './answer-schema.js';
import { wholeRun } from './alike.js';
import { RunFormatError } from './errors.js';
import { quickCheckOf, type QuickCheck } from './quick-check.js';
import { findingSchema, fixSchema } from './fix-schema.js';
import { bytes, closed, keyed, list, newerList, share, slot, text, whole } from './schema-parts.js';
import { began, placementSchema } from './placement-schema.js';
import { readTemplatesSchema, sweptTemplatesSchema } from './template-schema.js';
import type { Run } from './types.js';

const traffic = closed({ downloads: bytes(), bytes: bytes() });

export const screenSchema = closed({
  name: string().min(1).required(),
  width: number().integer().min(1).max(16384).required(),
  height: number().integer().min(1).max(16384).required(),
  density: number().min(0.25).max(8).required(),
  touch: boolean().required(),
  share: share(),
});

const shiftRelease = closed({
  url: string().nullable().defined(),
  selectors: list(text()),
  score: number().min(0).required(),
  observed: number().min(0).required(),
  moved: list(
    closed({
      name: text(),
      by: number().min(0).required(),
      from: slot.optional().default(undefined),
      to: slot.optional().default(undefined),
    }),
  ),
  count: bytes(),
});

const visit = closed({
  screen: text(),
  state: string().oneOf(['complete', 'partial', 'redirected', 'unseen']).required(),
  firstView: traffic,
  whole: traffic,
  byItself: traffic,
  allBytes: bytes(),
  documentHeight: number().min(0).required(),
  documentWidth: number().min(0).required(),
  largestPaint: string().nullable().defined(),
  shift: closed({
    score: number().min(0).required(),
    observed: number().min(0).required(),
    releases: list(shiftRelease),
  }),
  downloads: list(
    closed({
      url: text(),
      bytes: bytes(),
      type: text(),
      status: number().integer().required(),
      began: began(),
      scrollDepth: number().min(0).required(),
      failure: string(),
    }),
  ),
});

const totals = closed({
  screen: text(),
  firstView: bytes(),
  whole: bytes(),
  expected: bytes(),
  expectedAfter: bytes(),
  notJudged: bytes(),
  byItself: bytes(),
  allBytes: bytes(),
});

const pricePoint = closed({
  width: number().integer().min(1).required(),
  bytes: bytes(),
  atTarget: number().integer().min(1),
  ownSize: boolean(),
  quality: number().nullable().defined(),
  palette: boolean().oneOf([true]),
  decibels: number().nullable().defined(),
});

export const runSchema = closed({
  format: string().oneOf(['yukkuri-run/2']).required(),
  site: closed({ kind: string().oneOf(['folder', 'live']).required(), name: text(), basePath: text() }),
  screens: list(screenSchema),
  conditions: closed({
    lazyDistance: number().min(0).required(),
    timersRunAheadMs: bytes(),
    sharpness: number().min(1).nullable().defined(),
    reach: list(closed({ viewports: number().min(0).required(), share: share() })),
  }),
  pages: list(
    closed({
      path: text(),
      file: text(),
      base: text(),
      weight: share(),
      visits: list(visit),
      withoutScript: closed({ urls: list(text()) }).nullable(),
      connects: newerList(text()),
      forbids: newerList(
        string().oneOf(['style-attributes', 'inlined-pictures', 'changed-styles']).required(),
      ),
      sealedSheets: newerList(text()),
      read: boolean().oneOf([true]),
      visitedOn: newerList(text()),
    }),
  ),
  placements: list(placementSchema),
  files: list(
    closed({
      url: text(),
      format: text(),
      width: bytes(),
      height: bytes(),
      bytes: bytes(),
      animated: boolean().required(),
      frames: number().integer().min(1).required(),
      colourSpace: text(),
      bitDepth: bytes(),
      alpha: string().oneOf(['none', 'unused', 'used']).required(),
      lossless: boolean().required(),
      palette: boolean().required(),
      quality: number().nullable().defined(),
      embedded: bytes(),
      turned: boolean().required(),
      truncated: boolean().required(),
      metadata: keyed(bytes()),
      hash: text(),
      problem: string(),
    }),
  ),
  answers: newerList(answerSchema),
  sweeps: list(
    closed({
      placement: text(),
      pieces: list(
        closed({
          from: number().required(),
          slotFrom: number().required(),
          to: number().required(),
          slotTo: number().required(),
        }),
      ),
      write: string().nullable().defined(),
      reason: string().nullable().defined(),
      holds: share(),
      worst: number().min(0).required(),
      constant: number().nullable().defined(),
      like: string(),
    }),
  ),
  sweptTemplates: sweptTemplatesSchema,
  readTemplates: readTemplatesSchema,
  prices: list(
    closed({
      url: text(),
      content: string().oneOf(['photo', 'graphic', 'between']).required(),
      alike: list(pricePoint),
      formats: keyed(list(pricePoint)),
      notes: list(text()),
    }),
  ),
  pricing: closed({
    looks: number().integer().required(),
    worthPricing: bytes(),
    encoded: bytes(),
    economical: bytes(),
    left: bytes(),
    limited: boolean().required(),
  }),
  picks: closed({
    strategy: text(),
    agree: bytes(),
    compared: bytes(),
    disagreements: list(
      closed({
        placement: text(),
        screen: text(),
        predicted: string().nullable().defined(),
        observed: string().nullable().defined(),
        reason: text(),
      }),
    ),
  }),
  findings: list(findingSchema),
  fixes: list(fixSchema),
  ledger: list(
    closed({
      page: text(),
      screen: text(),
      url: text(),
      placements: list(text()),
      delivered: bytes(),
      cuts: list(closed({ kind: text(), fix: text(), bytes: whole(), expected: whole() })),
      remains: bytes(),
      expected: bytes(),
      expectedRemains: bytes(),
    }),
  ),
  totals: closed({ screens: list(totals), average: totals }),
  hostGuesses: newerList(closed({ template: text(), pictures: whole() })),
  again: againSchema,
  trifles: closed({ findings: bytes(), bytes: bytes() }),
  leftOut: newerList(
    closed({
      check: text(),
      placement: text(),
      reason: text(),
      until: string().nullable().defined(),
      expired: boolean().required(),
    }),
  ),
  notJudged: list(closed({ url: text(), pages: list(text()), expected: bytes() })),
  redirected: list(closed({ page: text(), to: text() })),
  refused: list(closed({ host: text(), requests: bytes(), pages: list(text()) })),
  strangeTraffic: list(closed({ path: text(), visits: number().min(0).required() })),
  incomplete: list(closed({ page: text(), screen: string().nullable().defined(), why: text() })),
  meta: mixed().required(),
});

let quickly: QuickCheck | undefined;
const followsSchema: QuickCheck = (value) => (quickly ??= quickCheckOf(runSchema))(value);

/**
 * Reads a value as a saved run. What is written as like another element is whole in what is given.
 * @throws {RunFormatError} naming the first field that is not as the format says
 */
export function readRun(value: unknown): Run {
  try {
    const whole = wholeRun(value);
    if (!followsSchema(whole)) runSchema.validateSync(whole, { strict: true, abortEarly: true });
    const run = whole as Run;
    // Runs of before do not know of it.
    return 'leftOut' in run ? run : { ...(run as Run), leftOut: [] };
  } catch (cause) {
    throw cause instanceof RunFormatError ? cause : new RunFormatError(cause);
  }
}
