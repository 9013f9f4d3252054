import type { ServerAnswer } from '../server-answer.js';
import type { SiteNetwork } from '../site.js';
import { BodyFolder } from './body-folder.js';
import { HttpClient } from './client.js';
import { isAddress } from './is-address.js';
import { isNamed, networkOf } from './network.js';
import { Received, userAgentOf } from './received.js';

/** Hosts that the pages of a folder ask beside it, and what they answered. */
export interface OtherHosts {
  network: SiteNetwork;
  ask(addresses: Iterable<string>): Promise<void>;
  fileAt(address: string): string | undefined;
  /** Undefined for what no other host answered. */
  read(file: string): Promise<Buffer> | undefined;
  hashOf(file: string): string | undefined;
  answerTo(address: string): ServerAnswer | undefined;
  differsFor(address: string, accept: string): Promise<boolean | undefined>;
  close(): Promise<void>;
}

/** @param origin of the folder's own server, which the browser asks itself */
export async function openOtherHosts(
  origin: string,
  { otherHosts, hosts, toolVersion }: { otherHosts: boolean; hosts: readonly string[]; toolVersion: string },
): Promise<OtherHosts> {
  const folder = new BodyFolder();
  const client = new HttpClient({
    origin: '',
    credentials: { headers: {} },
    insecure: false,
    atOnce: 6,
    pauseMs: 0,
    trustsHost: (url) => isNamed(hosts, url),
  });
  const received = new Received(client, folder.path, userAgentOf(toolVersion));
  const network = networkOf(received, { origin, ownToo: false, otherHosts, hosts });
  const answerAt = (address: string) => (isAddress(address) ? received.contentAt(address) : undefined);
  const mayAsk = (url: string) =>
    isAddress(url) && network.allows(url) && received.hosts.has(new URL(url).host);
  return {
    network,
    ask: (addresses) => received.askForImages(addresses, mayAsk),
    fileAt: (address) => answerAt(address) && address,
    read: (file) => {
      const answer = answerAt(file);
      return answer && received.bodyOf(answer);
    },
    hashOf: (file) => answerAt(file)?.hash,
    answerTo: (address) => (isAddress(address) ? received.serverAnswer(address) : undefined),
    differsFor: (address, accept) =>
      isAddress(address) ? received.differsFor(address, accept) : Promise.resolve(undefined),
    async close() {
      await client.close();
      folder.remove();
    },
  };
}
