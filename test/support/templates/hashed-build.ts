import { createHash } from 'node:crypto';
import { Dice } from '../generated-site.js';
import { PictureBox, prose, word, type Master, type SiteFiles } from './pictures.js';

/** What a bundler writes: hashed names, one line without quotes, preloads of the main picture, a module that runs late, tiny pictures inline. */
export async function hashedBuild(seed: number): Promise<SiteFiles> {
  const dice = new Dice(seed);
  const box = new PictureBox(dice);
  const style = dice.of(['.', '-']);
  const store = async (name: string, format: string, master: Master, width = master.width) => {
    const path = `_assets/${name}.${format}`;
    const height = await box.store(path, master, width);
    const content = box.files[path] as Buffer;
    Reflect.deleteProperty(box.files, path);
    const hash = createHash('sha256').update(content).digest('base64url').slice(0, 8);
    const hashed = `_assets/${name}${style}${hash}.${format}`;
    box.files[hashed] = content;
    return { url: `/${hashed}`, width, height };
  };
  const pages: SiteFiles = {};
  type Stored = Awaited<ReturnType<typeof store>>;
  const heroes: { small: Stored; large: Stored }[] = [];
  for (let index = 0; index < 3; index++) {
    const master = await box.photograph(1920, 1080);
    heroes.push({
      small: await store(`hero-${index + 1}`, 'webp', master, 960),
      large: await store(`hero-${index + 1}`, 'webp', master),
    });
  }
  const shots: Stored[] = [];
  for (let index = 0; index < 5; index++)
    shots.push(
      await store(
        `${word(dice)}${dice.between(1, 99)}`,
        dice.of(['jpg', 'png']),
        await box.photograph(1280, dice.of([720, 853])),
      ),
    );
  const screenshot = await store('screen', 'png', await box.drawing(1440, 900));
  const mark = `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 48 48"><!-- drawn by hand --><circle cx="24.0000" cy="24.0000" r="20.0000" fill="#36c"/></svg>`;
  box.files['_assets/mark.B4c9d2ef.svg'] = mark;
  const wash = await store('wash', 'jpg', await box.photograph(1600, 500));
  const css = `body{margin:0;font:16px/1.5 system-ui,sans-serif}.hero{width:100%;height:auto;display:block}.rows{max-width:1100px;margin:auto;padding:0 16px}.row{display:grid;gap:24px;align-items:start}@media (width>=768px){.row{grid-template-columns:1fr 1fr}}.row img{width:100%;height:auto}.wash{background-image:linear-gradient(#0003,#0003),url(${wash.url});background-size:cover;padding:80px 16px}.shot{max-width:100%;height:auto}nav img{width:40px;height:40px}`;
  const cssName = `_assets/index${style}${createHash('sha256').update(css).digest('base64url').slice(0, 8)}.css`;
  box.files[cssName] = css;
  box.files['_assets/app.D9f8e7aa.js'] =
    'addEventListener("load",()=>{document.documentElement.classList.add("ready")});';
  const frame = (title: string, head: string, body: string) =>
    `<!doctype html><html lang=en><head><meta charset=utf-8><meta name=viewport content="width=device-width,initial-scale=1"><title>${title}</title>${head}<link rel=stylesheet href=/${cssName}><script type=module src=/_assets/app.D9f8e7aa.js></script></head><body><nav><a href=/><img src=/_assets/mark.B4c9d2ef.svg alt=Home width=40 height=40></a></nav>${body}</body></html>`;
  const shot = (index: number, lazy = dice.chance(0.5)) => {
    const { url, width, height } = shots[index % shots.length] ?? screenshot;
    return `<div class=row><img src=${url} width=${width} height=${height} alt="${word(dice)}"${lazy ? ' loading=lazy decoding=async' : ''}><div>${prose(dice, 90)}</div></div>`;
  };
  for (const [index, { small, large }] of heroes.entries()) {
    const list = `${small.url} 960w, ${large.url} 1920w`;
    const preload = `<link rel=preload as=image href=${large.url} imagesrcset="${list}" imagesizes=100vw>`;
    const hero = `<img class=hero src=${large.url} srcset="${list}" sizes=100vw width=${large.width} height=${large.height} alt="${word(dice)}">`;
    pages[index === 0 ? 'index.html' : `${word(dice)}${index}/index.html`] = frame(
      `Page ${index}`,
      dice.chance(0.7) ? preload : '',
      `${hero}<main class=rows>${[0, 1, 2].map((step) => shot(index + step)).join('')}</main><section class=wash>${prose(dice, 20)}</section>`,
    );
  }
  for (let index = 0; index < 3; index++)
    pages[`docs/${word(dice)}${index}/index.html`] = frame(
      `Guide ${index}`,
      '',
      `<main class=rows><h1>${word(dice)}</h1>${prose(dice, 50)}<img class=shot src=${screenshot.url} alt=Program>${prose(dice, 60)}${shot(index + 3, false)}</main>`,
    );
  return { ...pages, ...box.files };
}
