/** What was given to audit cannot be audited. */
export class SiteError extends Error {
  constructor(
    readonly code:
      | 'NO_SUCH_FOLDER'
      | 'NOT_A_FOLDER'
      | 'NO_PAGES'
      | 'NO_SUCH_PAGE'
      | 'NO_ANSWER'
      | 'WRONG_ADDRESS'
      | 'WRONG_HEADER'
      | 'WRONG_COOKIES'
      | 'WRONG_SITEMAP',
    message: string,
  ) {
    super(message);
    this.name = 'SiteError';
  }
}
