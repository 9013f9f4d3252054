/** What was given to audit cannot be audited. */
export class SiteError extends Error {
  constructor(
    readonly code: 'NO_SUCH_FOLDER' | 'NOT_A_FOLDER' | 'NO_PAGES' | 'NO_SUCH_PAGE',
    message: string,
  ) {
    super(message);
    this.name = 'SiteError';
  }
}
