import { RequestError, Server } from 'proxy-chain';

/** What a browser may reach, whoever asks in it: pages, workers, sockets, what is fetched in advance. */
export interface Reach {
  /** Whether anything may be asked of where a URL leads. */
  allows(url: string): boolean;
  /** Every host may be asked. */
  everywhere?: boolean;
}

/** Told what goes through a gate. */
export interface GateWatch {
  /** An address that is asked for: whole if it is not encrypted, else its host. */
  onAsked?(url: string): void;
  /** A host and port that was refused. */
  onRefused?(host: string): void;
}

export interface OuterGate {
  /** Of the proxy on 127.0.0.1 that all requests go through. */
  port: number;
  /** The program does not wait for it. */
  unref(): void;
  close(): Promise<void>;
}

/**
 * The gate around a browser, or around one of its contexts: a proxy on loopback that knows only what may be reached. Pages have a gate of
 * their own, which holds their images and says what was refused where; what no page's log shows (workers, sockets, speculation) ends here.
 */
export async function openOuterGate({ allows }: Reach, watch: GateWatch = {}): Promise<OuterGate> {
  const proxy = new Server({
    port: 0,
    host: '127.0.0.1',
    prepareRequestFunction({ hostname, port, isHttp, request }) {
      const host = `${hostname}:${port}`;
      const origin = `${isHttp || port !== 443 ? 'http' : 'https'}://${host}/`;
      if (allows(origin)) {
        watch.onAsked?.(isHttp ? (request.url ?? origin) : origin);
        return {};
      }
      watch.onRefused?.(host);
      throw new RequestError('The audit does not ask other hosts.', 403);
    },
  });
  // A target that is not there is no fault: the page hears of it.
  proxy.on('requestFailed', () => undefined);
  await proxy.listen();
  return {
    port: proxy.port,
    unref: () => void proxy.server.unref(),
    close: () => proxy.close(true),
  };
}

export const proxyAddress = ({ port }: Pick<OuterGate, 'port'>) => `http://127.0.0.1:${port}`;

/** Loopback is reached directly unless told otherwise. */
export const noBypass = '<-loopback>';

/**
 * The switches by which a browser asks nobody but through gates.
 * @param gate of what asks outside of any tab
 * @param everywhere whether names of hosts may be looked up
 */
export const gateSwitches = (gate: Pick<OuterGate, 'port'>, everywhere: boolean): string[] => [
  `--proxy-server=${proxyAddress(gate)}`,
  `--proxy-bypass-list=${noBypass}`,
  '--force-webrtc-ip-handling-policy=disable_non_proxied_udp',
  ...(everywhere ? [] : ['--host-resolver-rules=MAP * ~NOTFOUND, EXCLUDE 127.0.0.1']),
];
