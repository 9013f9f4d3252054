import { BlockList, isIP } from 'node:net';
import { lookup, type LookupAddress } from 'node:dns';

/** Networks that a page from elsewhere must not reach through the auditor: RFC 6890, RFC 4193, RFC 4291, RFC 6598. */
const inner = new BlockList();
for (const [network, prefix] of [
  ['0.0.0.0', 8],
  ['10.0.0.0', 8],
  ['100.64.0.0', 10],
  ['127.0.0.0', 8],
  ['169.254.0.0', 16],
  ['172.16.0.0', 12],
  ['192.0.0.0', 24],
  ['192.168.0.0', 16],
  ['198.18.0.0', 15],
  ['224.0.0.0', 4],
  ['240.0.0.0', 4],
] as const)
  inner.addSubnet(network, prefix, 'ipv4');
for (const [network, prefix] of [
  ['::', 128],
  ['::1', 128],
  ['fc00::', 7],
  ['fe80::', 10],
  ['ff00::', 8],
] as const)
  inner.addSubnet(network, prefix, 'ipv6');

/** Whether an IP address is one of a private, link-local or loopback network. */
export function isInnerAddress(address: string): boolean {
  const mapped = /^::ffff:(\d+\.\d+\.\d+\.\d+)$/i.exec(address)?.[1];
  if (mapped !== undefined) return isInnerAddress(mapped);
  const family = isIP(address);
  return family !== 0 && inner.check(address, family === 6 ? 'ipv6' : 'ipv4');
}

/** Whether a host's name says by itself that it is of an inner network. */
export function isInnerHost(hostname: string): boolean {
  const bare = hostname.replace(/^\[|\]$/g, '').replace(/\.$/, '');
  return /(^|\.)localhost$/i.test(bare) || isInnerAddress(bare);
}

type LookupCallback = (error: Error | null, address?: string | LookupAddress[], family?: number) => void;

/** Looks a name up as Node does, and gives nothing where it leads into an inner network. */
export function lookupOutside(hostname: string, options: object, callback: LookupCallback): void {
  lookup(hostname, { ...options, all: true }, (error, addresses) => {
    if (error) {
      callback(error);
      return;
    }
    const refused = addresses.find(({ address }) => isInnerAddress(address));
    const [first] = addresses;
    if (refused || !first)
      callback(
        new Error(
          `"${hostname}" leads into an inner network (${refused?.address ?? 'nowhere'}), which a page may not ask`,
        ),
      );
    else if ('all' in options && options.all === true) callback(null, addresses);
    else callback(null, first.address, first.family);
  });
}
