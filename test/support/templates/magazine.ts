import { Dice } from '../generated-site.js';
import { PictureBox, prose, word, type SiteFiles } from './pictures.js';

/** A magazine: covers that fill boxes of a set height, crops for narrow screens, figures that float, pictures in styles, a poster. */
export async function magazine(seed: number): Promise<SiteFiles> {
  const dice = new Dice(seed);
  const box = new PictureBox(dice);
  const lead = await box.photograph(2000, 1125);
  await box.store('img/lead-wide.jpg', lead);
  await box.store('img/lead-wide-1200.jpg', lead, 1200);
  await box.store('img/lead-tall.jpg', lead, 900, 0.75);
  await box.store('img/paper.jpg', await box.photograph(1600, 900));
  await box.store('img/poster.jpg', await box.photograph(1280, 720));
  await box.store('img/chart.png', await box.drawing(1400, 900));
  const stories: { slug: string; widths: number[] }[] = [];
  for (let index = 0; index < 6; index++) {
    const slug = `20${dice.between(18, 25)}-${dice.between(10, 12)}-${word(dice)}`;
    const master = await box.photograph(1500, dice.of([1000, 844, 1500]));
    const widths = dice.chance(0.5) ? [1500] : [600, 1500];
    for (const width of widths) await box.store(`img/${slug}-${width}w.jpg`, master, width);
    stories.push({ slug, widths });
  }
  const srcset = ({ slug, widths }: (typeof stories)[number], up: string) =>
    widths.length > 1
      ? ` srcset="${widths.map((width) => `${up}img/${slug}-${width}w.jpg ${width}w`).join(', ')}" sizes="${dice.of(['100vw', '50vw'])}"`
      : '';
  const cover = (story: (typeof stories)[number], up: string, more = '') =>
    `<a class="cover" href="${up}stories/${story.slug}.html"><img src="${up}img/${story.slug}-1500w.jpg"${srcset(story, up)} alt="${story.slug}"${more}><span>${word(dice)}</span></a>`;
  const frame = (title: string, up: string, body: string) =>
    `<!doctype html>\n<html lang=en>\n<meta charset=utf-8>\n<meta name=viewport content="width=device-width">\n<title>${title}</title>\n<link rel=stylesheet href="${up}magazine.css">\n<body>\n${body}\n<footer class="paper"><p>${word(dice)}</p></footer>\n`;
  const pages: SiteFiles = {
    'index.html': frame(
      'Magazine',
      '',
      `<picture class="lead">\n  <source media="(max-width: 640px)" srcset="img/lead-tall.jpg">\n  <img src="img/lead-wide.jpg" srcset="img/lead-wide-1200.jpg 1200w, img/lead-wide.jpg 2000w" sizes="100vw" alt="The lead">\n</picture>\n<div class="covers">${stories.map((story) => cover(story, '')).join('\n')}</div>`,
    ),
    'archive/index.html': frame(
      'Archive',
      '../',
      `<h1>Archive</h1>${prose(dice, 80)}<div class="covers">${[...stories]
        .reverse()
        .map((story, index) => cover(story, '../', index > 2 ? ' loading=lazy' : ''))
        .join('\n')}</div>`,
    ),
    'magazine.css': `body{margin:0;font:18px/1.6 serif}\n.lead img{display:block;width:100%;height:${dice.of(['60vw', '420px'])};object-fit:cover}\n.covers{display:flex;flex-wrap:wrap}\n.cover{position:relative;flex:1 1 ${dice.of(['300px', '340px'])};height:${dice.of([220, 280])}px;overflow:hidden}\n.cover img{width:100%;height:100%;object-fit:cover;object-position:top}\n.cover span{position:absolute;left:10px;bottom:6px;color:#fff}\narticle{max-width:760px;margin:0 auto;padding:0 20px}\narticle figure{margin:20px 0}article figure img{width:100%;height:auto;display:block}\nfigure.side{float:right;width:45%;margin:0 0 10px 20px}\n.paper{background:#eee url("img/paper.jpg") center/cover;height:240px}\n@media(max-width:640px){.paper{height:160px}figure.side{float:none;width:auto;margin:20px 0}}\nvideo{width:100%;height:auto;aspect-ratio:16/9;display:block}\n`,
  };
  for (const [index, story] of stories.slice(0, 5).entries()) {
    const others = stories[(index + 1) % stories.length] ?? story;
    const side = `<figure class="side"><img src="../img/${others.slug}-1500w.jpg"${srcset(others, '../')} alt="Beside" loading="lazy"><figcaption>${word(dice)}</figcaption></figure>`;
    const extra = [
      '<video poster="../img/poster.jpg" preload="none" controls></video>',
      '<figure><img src="../img/chart.png" width="1400" height="900" alt="A chart"></figure>',
      '<div style="height:200px;background-image:url(../img/paper.jpg);background-size:cover"></div>',
    ][index % 3];
    pages[`stories/${story.slug}.html`] = frame(
      story.slug,
      '../',
      `<article><h1>${story.slug}</h1><figure><img src="../img/${story.slug}-1500w.jpg"${srcset(story, '../')} alt="Story"></figure>${prose(dice, 120)}${side}${prose(dice, 150)}${extra}${prose(dice, 60)}</article>`,
    );
  }
  return { ...pages, ...box.files };
}
