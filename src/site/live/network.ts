import type { SiteNetwork } from '../site.js';
import { isAnswered } from './answer.js';
import { isAddress } from './is-address.js';
import { isInnerHost } from './reachable.js';
import { acceptedBy } from './page-request.js';
import type { Received } from './received.js';

export interface NetworkRules {
  /** Origin of the audited site. */
  origin: string;
  /** Whether the site's own answers come from here too; its server is asked by the browser if not. */
  ownToo: boolean;
  /** Whether hosts of the open network may be asked beside those that are named. */
  otherHosts: boolean;
  /** Hosts that may be asked wherever they are, as `host` or `host:port`. */
  hosts: readonly string[];
}

export const isNamed = (
  hosts: readonly string[],
  { host, hostname }: Pick<URL, 'host' | 'hostname'>,
): boolean => hosts.includes(host) || hosts.includes(hostname);

/** Who answers a page, and what it may ask for. */
export function networkOf(received: Received, rules: NetworkRules): SiteNetwork {
  const { origin, ownToo, otherHosts, hosts } = rules;
  const isOwn = (url: string) => url.startsWith(`${origin}/`);
  const trusts = (url: string) => isOwn(url) || (URL.canParse(url) && isNamed(hosts, new URL(url)));
  return {
    hosts,
    allows: (url) =>
      /^(data|blob|about):/.test(url) ||
      trusts(url) ||
      (otherHosts && isAddress(url) && URL.canParse(url) && !isInnerHost(new URL(url).hostname)),
    allowsUnseen: (url) => trusts(url) || trusts(url.replace(/^ws/, 'http')),
    covers: (url) => isAddress(url) && (ownToo || !isOwn(url)),
    async answer({ url, method, headers, body, resource }) {
      const accept =
        resource === 'Document'
          ? acceptedBy.document
          : resource === 'Image'
            ? acceptedBy.image
            : acceptedBy.other;
      const isPlain = method === 'GET' && !Object.keys(headers).some((name) => /^range$/i.test(name));
      try {
        if (!isPlain) {
          const sent = await received.send(url, method, headers, body);
          return { ...sent, headers: named(sent.headers) };
        }
        const outcome = await received.ask(url, { accept, ...lowerCased(headers) });
        if (!isAnswered(outcome)) return { failure: outcome.failure };
        return {
          status: outcome.status,
          headers: named(outcome.headers),
          body: await received.bodyOf(outcome),
          wireBytes: outcome.wireBytes,
        };
      } catch (cause) {
        return { failure: String(cause) };
      }
    },
  };
}

const lowerCased = (headers: Readonly<Record<string, string>>) =>
  Object.fromEntries(Object.entries(headers).map(([name, value]) => [name.toLowerCase(), value]));

const named = (headers: readonly (readonly [string, string])[]) =>
  headers.map(([name, value]) => ({ name, value }));
