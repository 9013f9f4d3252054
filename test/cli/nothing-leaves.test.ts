import { createSocket } from 'node:dgram';
import { createServer } from 'node:net';
import type { AddressInfo } from 'node:net';
import { expect } from 'chai';
import { auditRun, page, photo, removeSites, siteOf } from '../support/program.js';

/** Listeners on loopback that note whatever reaches them. */
async function listeners() {
  const heard: string[] = [];
  const tcp = createServer((socket) => {
    socket.on('error', () => undefined);
    socket.on('data', (data) => heard.push(`tcp ${data.toString('latin1').split('\r\n')[0]}`));
    heard.push('tcp connection');
  });
  const udp = createSocket('udp4');
  udp.on('message', () => heard.push('udp'));
  await new Promise<void>((resolve) => tcp.listen(0, '127.0.0.1', resolve));
  await new Promise<void>((resolve) => udp.bind(0, '127.0.0.1', resolve));
  return {
    heard,
    tcp: (tcp.address() as AddressInfo).port,
    udp: udp.address().port,
    close: () => {
      tcp.close();
      udp.close();
    },
  };
}

/** A page that tries every way out. */
const waysOut = (host: string, udp: number) =>
  page(
    `<img src="a.jpg" width="300" height="200" alt="A hut">
<img src="http://${host}/image.png" alt=""><iframe src="http://${host}/frame"></iframe><object data="http://${host}/object"></object>
<video poster="http://${host}/poster" src="http://${host}/video"></video><audio src="http://${host}/sound" autoplay></audio>
<script>
const tries = [
  () => new WebSocket('ws://${host}/socket'),
  () => new EventSource('http://${host}/events'),
  () => fetch('http://${host}/fetch'),
  () => fetch('http://${host}/keepalive', { method: 'POST', keepalive: true, mode: 'no-cors' }),
  () => navigator.sendBeacon('http://${host}/beacon', 'x'),
  () => new Worker('worker.js'),
  () => new SharedWorker('shared.js'),
  () => navigator.serviceWorker.register('worker.js'),
  () => window.open('http://${host}/window'),
  () => import('http://${host}/module.js'),
  () => new WebTransport('https://${host}/transport'),
  () => {
    const peer = new RTCPeerConnection({ iceServers: [{ urls: 'stun:127.0.0.1:${udp}' }, { urls: 'turn:${host}?transport=tcp', username: 'u', credential: 'c' }] });
    peer.createDataChannel('x');
    peer.createOffer().then((offer) => peer.setLocalDescription(offer));
  },
];
addEventListener('pagehide', () => navigator.sendBeacon('http://${host}/late', 'x'));
for (const way of tries) { try { Promise.resolve(way()).catch(() => 0); } catch {} }
</script>`,
    `@import url("http://${host}/sheet.css"); @font-face{font-family:x;src:url("http://${host}/font.woff2")} p{font-family:x;background:url("http://${host}/background")}`,
  ).replace(
    '<title>',
    `<link rel="preconnect" href="http://${host}"><link rel="dns-prefetch" href="http://${host}"><link rel="prefetch" href="http://${host}/prefetch">` +
      `<link rel="icon" href="http://${host}/icon.png"><link rel="manifest" href="http://${host}/manifest.json"><link rel="modulepreload" href="http://${host}/preload.js">` +
      `<script type="speculationrules">{"prefetch":[{"source":"list","urls":["http://${host}/speculation"],"eagerness":"immediate"}],"prerender":[{"source":"list","urls":["http://${host}/prerender"],"eagerness":"immediate"}]}</script><title>`,
  );

/** Pages that go elsewhere by themselves, and tell others of it. */
const leaving = (host: string, how: string) =>
  page(
    `<a href="/second.html" ping="http://${host}/ping" id="link">on</a><form action="http://${host}/form" method="post" id="form"></form><script>${how}</script>`,
  );

describe('what a page asks of others', function () {
  this.timeout(120_000);
  after(removeSites);

  it('reaches nobody, by whatever way, and is listed', async () => {
    const { heard, tcp, udp, close } = await listeners();
    const host = `127.0.0.1:${tcp}`;
    try {
      const folder = await siteOf({
        'index.html': waysOut(host, udp),
        'second.html': page('<p>on</p>'),
        'click.html': leaving(host, "document.getElementById('link').click()"),
        'submit.html': leaving(host, "document.getElementById('form').submit()"),
        'worker.js': `new WebSocket('ws://${host}/worker-socket'); fetch('http://${host}/worker');`,
        'shared.js': `new WebSocket('ws://${host}/shared-socket'); fetch('http://${host}/shared');`,
        'a.jpg': await photo(600, 400),
      });
      const run = await auditRun(folder, '--screen', 'desk=1000x800@1', '--encode', 'none');
      expect(
        run.placements.find(({ candidates }) => candidates.includes('/a.jpg'))?.shown['desk']?.state,
      ).to.equal('drawn');
      expect(run.refused.map((each) => each.host)).to.include(host);
      expect(heard).to.deep.equal([]);
    } finally {
      close();
    }
  });
});
