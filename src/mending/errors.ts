export type MendErrorCode =
  'TARGET_INSIDE_SITE' | 'TARGET_NOT_EMPTY' | 'TARGET_NOT_WRITABLE' | 'NO_SUCH_FIX' | 'OTHER_SITE';

/** A copy cannot be made as the user asked for it. */
export class MendError extends Error {
  override name = 'MendError';

  constructor(
    readonly code: MendErrorCode,
    message: string,
    options?: ErrorOptions,
  ) {
    super(message, options);
  }
}
