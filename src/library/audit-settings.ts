import { availableParallelism } from 'node:os';
import { defaultTrifles } from '../core/bytes/trifles.js';
import { usualLooks } from '../core/bytes/probe-plan.js';
import type { ExceptionRule } from '../core/judging/exceptions.js';
import { defaultReach, type ReachCurve } from '../core/layout/reach.js';
import { defaultScreens, shareOut, type Screen } from '../core/run/index.js';
import type { AuditOptions } from '../survey/index.js';
import { toolVersion } from '../version.js';

/** What an audit may be told; everything may be left out. */
export interface AuditSettings {
  /** The usual four if left out. Their shares are scaled to sum to 1. */
  screens?: readonly Screen[];
  /** Newer formats that the site may use, best first. */
  formats?: readonly string[];
  /** JPEG quality that stands for equal looks, 30 to 95. */
  looks?: number;
  /** How many pictures are really encoded. */
  encode?: 'none' | 'enough' | 'all';
  /** A saving of fewer bytes, or of a smaller share of the file, on every screen is left out. */
  trifles?: { trifleBytes: number; trifleShare: number };
  /** Whether names of author and licence stay in the files. */
  keepCredits?: boolean;
  /** Shares of visits that scroll so many screenfuls. */
  reach?: ReachCurve;
  /** Visits by page path. */
  traffic?: ReadonlyMap<string, number>;
  /** Path of a Chromium, Chrome or Edge, and whether its own sandbox is on. */
  browser?: {
    path?: string;
    sandbox?: boolean;
    /** After so many looks at pages another process takes its place, so that it does not grow. */
    contextsEach?: number;
  };
  /** Time limit for one page on one screen, ms. */
  pageLimitMs?: number;
  /** Visits at once. */
  atOnce?: number;
  /** Whether pages may ask other hosts. */
  allowOtherHosts?: boolean;
  /** Where measurements of pictures and what was seen of pages are kept; nothing is kept if left out. */
  cacheFolder?: string;
  /** Whether every page is looked at anew, though nothing that it is made from has changed. */
  fresh?: boolean;
  /** Whether files of the same size and times as before are taken to be the same; they are if left out. */
  trustTimes?: boolean;
  /** Whether all pages of sites with 200 pages and more are visited too; those are read that visits of their templates explain if left out. */
  everyPage?: boolean;
  /** Share of visits that come back after a day. */
  returning?: number;
  /** URI Templates of hosts that give pictures in any width by their addresses (docs/targets.md). */
  imageHosts?: readonly string[];
  /** What is waited for and clicked on before a page is looked at: CSS selectors. */
  prepare?: { waitFor?: string; click?: readonly string[] };
  /** Findings that are to be left out. */
  exceptions?: readonly ExceptionRule[];
  /** Ends the audit: what is open is finished, and the task throws the signal’s reason. */
  signal?: AbortSignal;
}

/** The options of the survey with what is usual for all that was left out. */
export function auditOptions(settings: AuditSettings): AuditOptions {
  const { exceptions = [], traffic, cacheFolder, signal } = settings;
  const selectors = exceptions.flatMap(({ selector }) => selector ?? []);
  return {
    screens: shareOut([...(settings.screens ?? defaultScreens)]),
    ...(settings.browser ? { browser: settings.browser } : {}),
    pageLimitMs: settings.pageLimitMs ?? 30_000,
    // A visit waits for frames and transfers half of the time, so two share a processor well.
    atOnce: settings.atOnce ?? Math.min(6, 2 * availableParallelism()),
    allowOtherHosts: settings.allowOtherHosts ?? false,
    exceptions,
    today: new Date().toISOString().slice(0, 10),
    ...(selectors.length > 0 ? { match: [...new Set(selectors)] } : {}),
    toolVersion,
    wishes: {
      formats: settings.formats ?? ['avif', 'webp'],
      trifles: settings.trifles ?? defaultTrifles,
      keepCredits: settings.keepCredits ?? false,
      crops: false,
      sharpness: Number.POSITIVE_INFINITY,
    },
    looks: settings.looks ?? usualLooks,
    reach: settings.reach ?? defaultReach,
    ...(traffic ? { traffic } : {}),
    encode: settings.encode ?? 'enough',
    ...(cacheFolder === undefined ? {} : { cacheFolder }),
    fresh: settings.fresh ?? false,
    trustTimes: settings.trustTimes ?? true,
    everyPage: settings.everyPage ?? false,
    ...(settings.returning === undefined ? {} : { returning: settings.returning }),
    ...(settings.imageHosts ? { imageHosts: settings.imageHosts } : {}),
    ...(settings.prepare ? { prepare: settings.prepare } : {}),
    ...(signal ? { interrupted: signal } : {}),
  };
}
