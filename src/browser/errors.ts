/** The browser cannot be found or started, has nowhere to put its files, or went away. */
export class BrowserError extends Error {
  constructor(
    readonly code: 'NO_BROWSER' | 'BROWSER_DOES_NOT_START' | 'BROWSER_DIED' | 'NO_TEMPORARY_FOLDER',
    message: string,
    options?: ErrorOptions,
  ) {
    super(message, options);
    this.name = 'BrowserError';
  }
}

export function died(cause?: unknown): BrowserError {
  return new BrowserError('BROWSER_DIED', 'the browser stopped in the middle of the visit', { cause });
}

/** A visit ran out of time. `step` says what it was waiting for. */
export class VisitTimeout extends Error {
  readonly code = 'VISIT_TIMEOUT';

  constructor(
    readonly step: string,
    readonly limitMs: number,
  ) {
    super(`the page did not settle within ${limitMs / 1000} s (while ${step})`);
    this.name = 'VisitTimeout';
  }
}

/** The document that was asked is not there any more: the page is on its way elsewhere. */
export class LeftMeanwhile extends Error {
  readonly code = 'LEFT_MEANWHILE';

  constructor(options?: ErrorOptions) {
    super('the page went elsewhere, or loaded itself anew, while it was looked at', options);
    this.name = 'LeftMeanwhile';
  }
}
