import { page } from '../support/program.js';

/** A page that makes trouble, beside a sound image that is to be seen all the same wherever the page can be seen at all. */
export interface HostilePage {
  html: string;
  /** Other files that it needs. */
  files?: Record<string, string | Buffer>;
  /** What the run says of it, by page: nothing where it is seen whole. */
  says?: RegExp;
  /** Whether its sound image is seen drawn. */
  seen: boolean;
  /** Takes long, so it runs in `npm run hostile` only. */
  long?: boolean;
}

const sound = '<img src="/sound.jpg" width="300" height="200" alt="A hut">';
const script = (code: string, body = '') => page(`${sound}${body}<script>${code}</script>`);
const repeated = (text: string, count: number) => text.repeat(count);

/** Pages that scripts make hard to look at. */
const scripts: Record<string, HostilePage> = {
  'endless-requests': {
    html: script("setInterval(() => fetch('/sound.jpg?' + Math.random()), 20)"),
    seen: true,
  },
  'endless-images': {
    html: script("setInterval(() => (new Image().src = '/sound.jpg?' + Math.random()), 30)"),
    // On a machine with much to do the limit of time may come first.
    says: /never stops asking|did not settle/,
    seen: true,
  },
  'grows-as-it-is-scrolled': {
    html: script(
      "addEventListener('scroll', () => { const p = document.createElement('p'); p.style.height = document.body.scrollHeight + 'px'; document.body.append(p); }); document.body.style.minHeight = '3000px'",
    ),
    says: /the page goes on|did not settle/,
    seen: true,
  },
  alerts: {
    html: script("alert('a'); confirm('b'); prompt('c'); onbeforeunload = () => 'stay'"),
    seen: true,
  },
  'alerts-without-end': { html: script("setInterval(() => alert('again'), 10)"), seen: true },
  'pop-ups': { html: script("for (let i = 0; i < 20; i++) open('/second.html')"), seen: true },
  downloads: {
    html: script(
      "const a = document.createElement('a'); a.href = '/archive.bin'; a.download = ''; document.body.append(a); a.click()",
    ),
    files: { 'archive.bin': Buffer.alloc(2000) },
    seen: true,
  },
  'never-yields': { html: script('for (;;) {}'), says: /did not settle/, seen: false },
  'never-yields-later': {
    html: script('setTimeout(() => { for (;;) {} }, 100)'),
    says: /did not settle/,
    seen: false,
  },
  'goes-to-itself': {
    html: script('location.reload()'),
    says: /loads itself anew|went elsewhere|goes? elsewhere|leads/,
    seen: false,
  },
  'goes-to-itself-later': { html: script('setTimeout(() => location.reload(), 60)'), seen: false, says: /./ },
  refreshes: {
    html: page(sound).replace('<title>', '<meta http-equiv="refresh" content="0"><title>'),
    seen: false,
    says: /./,
  },
  'writes-late': {
    html: script(
      "setTimeout(() => document.write('<p>gone</p><img src=/sound.jpg width=300 height=200 alt=x>'), 50)",
    ),
    seen: true,
  },
  'opens-and-closes-documents': {
    html: script(
      "document.open(); document.write('<img src=/sound.jpg width=300 height=200 alt=x>'); document.close()",
    ),
    seen: true,
  },
  'built-ins-replaced': {
    html: script(
      "Array.prototype.map = Array.prototype.filter = function () { throw 1 }; JSON.stringify = () => '{}'; Promise = function () { throw 2 }; Element.prototype.getBoundingClientRect = () => ({}); window.getComputedStyle = () => ({}); requestAnimationFrame = () => 0; Map = Set = WeakMap = undefined; Object.defineProperty(Object.prototype, 'x', { get() { throw 3 } })",
    ),
    seen: true,
  },
  'controls-hide-properties': {
    html: page(
      `<form>${['parentElement', 'children', 'childNodes', 'siblings', 'style', 'id', 'getBoundingClientRect', 'localName', 'classList', 'matches', 'attributes', 'shadowRoot', 'parentNode', 'ownerDocument', 'getClientRects', 'clientWidth', 'scrollTop', 'isConnected', 'querySelectorAll'].map((name) => `<input name="${name}" type="hidden">`).join('')}${sound}</form>`,
    ),
    seen: true,
  },
  'images-hide-properties': {
    html: page(
      `${['images', 'body', 'scripts', 'fonts', 'styleSheets', 'documentElement', 'querySelectorAll', 'createElement', 'baseURI'].map((name) => `<img name="${name}" src="/sound.jpg" width="30" height="20" alt="">`).join('')}${sound}`,
    ),
    seen: true,
  },
  'sends-itself-elsewhere-while-looked-at': {
    html: script(
      "requestAnimationFrame(() => setTimeout(() => (location = '/second.html?' + Math.random()), 150))",
    ),
    seen: false,
    says: /./,
  },
  'service-worker': {
    html: script("navigator.serviceWorker?.register('/worker.js')"),
    files: { 'worker.js': 'self.onfetch = (e) => e.respondWith(new Response("no"))' },
    seen: true,
  },
  'socket-without-end': {
    html: script("new WebSocket('ws://' + location.host); new EventSource('/events')"),
    seen: true,
  },
  'one-address-near-and-far': {
    html: page(
      `${sound}<img src="/sound.jpg?2" alt="x"><div style="height:9000px"></div><img src="/sound.jpg?2" loading="lazy" alt="x">`,
    ),
    seen: true,
  },
  'moved-away-by-what-came-before': {
    html: page(
      `${sound}<img src="/sound.jpg?3" style="width:100%" alt="x"><img src="/sound.jpg?4" style="width:100%" alt="x"><img src="/sound.jpg?5" loading="lazy" alt="x"><div style="height:5000px"></div><img src="/sound.jpg?6" loading="lazy" alt="x">`,
    ),
    seen: true,
  },
  throws: { html: script("throw new Error('x'); "), seen: true },
  'frames-in-themselves': { html: page(`${sound}<iframe src="?again"></iframe>`), seen: true },
  'animates-without-end': {
    html: page(`${sound}<p>x</p>`, 'p{animation:x 1s infinite}@keyframes x{to{margin-left:50px}}'),
    seen: true,
  },
  'shadows-of-shadows': {
    html: script(
      "let h = document.body; for (let i = 0; i < 60; i++) { const d = document.createElement('div'); (h.shadowRoot ?? h).append(d); d.attachShadow({ mode: 'open' }); h = d; } h.shadowRoot.innerHTML = '<img src=/sound.jpg width=30 height=20 alt=x>'",
    ),
    seen: true,
  },
  'nested-by-script': {
    html: script(
      "let n = document.body; for (let i = 0; i < 1500; i++) { const d = document.createElement('div'); n.append(d); n = d; } n.innerHTML = '<img src=/sound.jpg width=30 height=20 alt=x>'",
    ),
    seen: true,
  },
  'nested-until-it-crashes': {
    html: script(
      "let n = document.body; for (let i = 0; i < 40000; i++) { const d = document.createElement('div'); n.append(d); n = d; }",
    ),
    says: /crashed in the browser/,
    seen: false,
  },
  'many-elements': { html: page(sound + repeated('<i>x</i>', 100_000)), seen: true, long: true },
  'many-images': {
    html: page(sound + repeated('<img src="/sound.jpg" width="30" height="20" alt="">', 20_000)),
    seen: true,
    long: true,
  },
  'a-large-document': { html: page(`${sound}<!--${repeated('x', 100_000_000)}-->`), seen: true, long: true },
  memory: {
    html: script('const a = []; for (;;) a.push(new Array(1e6).fill(Math.random()))'),
    seen: false,
    says: /./,
    long: true,
  },
};

/** Pages whose markup is hard to read. */
const markup: Record<string, HostilePage> = {
  'no-head': { html: '<img src=/sound.jpg width=300 height=200 alt=x>', seen: true },
  nothing: { html: '', seen: false },
  'only-text': { html: 'Just text', seen: false },
  'nested-elements': { html: page(repeated('<div>', 12_000) + sound), seen: true },
  deeper: { html: page(repeated('<b><div>', 25_000) + sound), seen: true, long: true },
  'null-bytes': { html: page(`\0<p\0>${sound}\0`), seen: true },
  'unclosed-everything': {
    html: `<!doctype html><title>x</title><style>${'.a{'.repeat(2000)}</style><div ${sound}<p "='`,
    seen: false,
  },
  'an-alt-of-a-megabyte': {
    html: page(`${sound}<img src="/sound.jpg" width="30" height="20" alt="${repeated('a', 1_000_000)}">`),
    seen: true,
  },
  'a-srcset-of-a-megabyte': {
    html: page(`${sound}<img srcset="${repeated('/sound.jpg 1x,', 70_000)}" alt="x">`),
    seen: true,
  },
  'sizes-of-parentheses': {
    html: page(
      `${sound}<img src="/sound.jpg" srcset="/sound.jpg 900w" sizes="${repeated('(', 3000)}" alt="x">`,
    ),
    seen: true,
  },
  'a-style-of-a-megabyte': {
    html: page(sound, repeated('.x{background:url(/sound.jpg)}', 30_000)),
    seen: true,
  },
  'inline-data-of-20-MB': {
    html: page(`${sound}<img src="data:image/png;base64,${repeated('AAAA', 5_000_000)}" alt="x">`),
    seen: true,
    says: /^$|./,
    long: true,
  },
  'control-characters': {
    html: page(`${sound}<img src="/none\u001b[31m.jpg" alt="\u001b]0;title\u0007\u202e\u009b31m">`),
    seen: true,
  },
  'addresses-that-are-none': {
    html: page(
      `${sound}<img src="http://[x" alt="x"><img src="//" alt="x"><img src="/%zz.jpg" alt="x"><img src="\\\\x\\y" alt="x">`,
    ),
    seen: true,
  },
  'a-base-elsewhere': {
    html: page(sound.replace('/sound.jpg', 'sound.jpg')).replace(
      '<title>',
      '<base href="http://elsewhere.invalid/"><title>',
    ),
    seen: false,
  },
  'names-of-prototypes': {
    html: page(
      `${sound}<img src="/sound.jpg" id="__proto__" class="constructor" name="hasOwnProperty" alt="x">`,
    ),
    seen: true,
  },
  'frames-of-every-kind': {
    html: page(
      `${sound}<iframe srcdoc="<img src=/sound.jpg>"></iframe><iframe src="javascript:1"></iframe><iframe src="data:text/html,x"></iframe><iframe src="about:blank"></iframe><frameset><frame src="/"></frameset>`,
    ),
    seen: true,
  },
};

/** Pages that make trouble once they have been seen. */
const afterwards: Record<string, HostilePage> = {
  'never-yields-once-scrolled': {
    html: script('addEventListener("scroll", () => { for (;;) {} })', '<p style="height:3000px">Text</p>'),
    says: /did not settle/,
    seen: true,
  },
};

export const hostilePages: Record<string, HostilePage> = { ...scripts, ...markup, ...afterwards };
