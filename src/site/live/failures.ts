import { causeInWords } from '../../core/wording/words.js';

const words: Readonly<Record<string, string>> = {
  ENOTFOUND: 'its name is not known',
  EAI_AGAIN: 'its name cannot be looked up now',
  ECONNREFUSED: 'it refuses the connection',
  ECONNRESET: 'it broke the connection off',
  EPIPE: 'it broke the connection off',
  EHOSTUNREACH: 'there is no way to it',
  ENETUNREACH: 'there is no way to it',
  ETIMEDOUT: 'it does not answer',
  UND_ERR_CONNECT_TIMEOUT: 'it does not answer',
  UND_ERR_HEADERS_TIMEOUT: 'its answer did not come in time',
  UND_ERR_BODY_TIMEOUT: 'its answer stopped coming',
  UND_ERR_SOCKET: 'it broke the connection off',
  UND_ERR_RES_CONTENT_LENGTH_MISMATCH: 'its body is not as long as it says',
  DEPTH_ZERO_SELF_SIGNED_CERT: 'its certificate is signed by itself (--insecure takes it)',
  SELF_SIGNED_CERT_IN_CHAIN: 'nobody known vouches for its certificate (--insecure takes it)',
  UNABLE_TO_VERIFY_LEAF_SIGNATURE: 'nobody known vouches for its certificate (--insecure takes it)',
  CERT_HAS_EXPIRED: 'its certificate has expired (--insecure takes it)',
  ERR_TLS_CERT_ALTNAME_INVALID: 'its certificate is for another name (--insecure takes it)',
  ERR_BUFFER_TOO_LARGE: 'its body is too large once it is unpacked',
  HPE_INVALID_CONSTANT: 'it does not speak HTTP',
};

/** Why a server gave no answer, as its user would say it. */
export function failureInWords(cause: unknown, { host }: Pick<URL, 'host'>): string {
  for (const each of causes(cause)) {
    const code = 'code' in each ? String(each.code) : '';
    const known = words[code] ?? (code.startsWith('HPE_') ? words['HPE_INVALID_CONSTANT'] : undefined);
    if (known !== undefined) return `${host}: ${known}`;
    if (each.name === 'TimeoutError') return `${host}: its answer did not come in time`;
  }
  return `${host}: ${causeInWords(cause)}`;
}

/** An error, those that it was made from, and those that it stands for. */
function causes(cause: unknown): Error[] {
  if (!(cause instanceof Error)) return [];
  const several = cause instanceof AggregateError ? (cause.errors as unknown[]) : [];
  return [cause, ...several.flatMap(causes), ...causes(cause.cause)];
}
