import { attributeOf } from '../plan/tag.js';
import type { LeftOut, Placement } from '../run/types.js';

/** Findings that a user does not want to be told of. */
export interface ExceptionRule {
  /** Id of a check; `*` for every one. */
  check: string;
  /** Whether it holds on a page, by its path; on all if left out. */
  holdsOn?: (page: string) => boolean;
  /** CSS selector of the images, or of what they stand in. */
  selector?: string | undefined;
  /** Only findings that save less than so many bytes on every screen. */
  below?: number | undefined;
  reason?: string | undefined;
  /** The last day on which it holds, as 2026-12-31. */
  until?: string | undefined;
}

/** The attribute by which markup says the same of one element. */
export const leaveAttribute = 'data-yukkuri-leave';

/** Decides which findings are left out: by the user's rules and by what the markup itself says. */
export class Exceptions {
  /**
   * @param chosen ids of the placements that each selector of the rules chose
   * @param today as 2026-11-26
   */
  constructor(
    readonly rules: readonly ExceptionRule[],
    readonly chosen: ReadonlyMap<string, ReadonlySet<string>>,
    readonly today: string,
  ) {}

  /**
   * The exception that a finding falls under, be it over or not; undefined where there is none.
   * @param saves gives the bytes on the screen where it saves most; only some rules ask for them
   */
  find(check: string, placement: Placement, saves: () => number): LeftOut | undefined {
    const found = [
      ...markupRules(placement),
      ...this.rules.filter((rule) => this.#holds(rule, placement)),
    ].filter(
      (rule) =>
        (rule.check === check || rule.check === '*') && (rule.below === undefined || saves() < rule.below),
    );
    // One that holds counts before one that is over.
    const rule = found.find((each) => !this.#isOver(each)) ?? found[0];
    return (
      rule && {
        check,
        placement: placement.id,
        reason: rule.reason ?? '',
        until: rule.until ?? null,
        expired: this.#isOver(rule),
      }
    );
  }

  #isOver({ until }: ExceptionRule): boolean {
    return until !== undefined && until < this.today;
  }

  #holds({ holdsOn, selector }: ExceptionRule, { id, page }: Placement): boolean {
    return (
      (holdsOn?.(page) ?? true) && (selector === undefined || (this.chosen.get(selector)?.has(id) ?? false))
    );
  }
}

/** `check-id: reason`, or `check-id until 2026-12-31: reason`; several are parted by semicolons. */
const written = /^\s*(\*|[a-z][a-z-]*)(?:\s+until\s+(\d{4}-\d{2}-\d{2}))?\s*(?::\s*([^]*?))?\s*$/;

/** What the element itself says. */
export function markupRules({ markup }: Pick<Placement, 'markup'>): ExceptionRule[] {
  if (!markup.includes(leaveAttribute)) return [];
  return (attributeOf(markup, leaveAttribute) ?? '').split(';').flatMap((part): ExceptionRule[] => {
    const [, check, until, reason] = written.exec(part) ?? [];
    return check === undefined ? [] : [{ check, until, reason }];
  });
}
