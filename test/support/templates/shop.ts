import { Dice } from '../generated-site.js';
import { PictureBox, prose, word, type SiteFiles } from './pictures.js';

interface Product {
  name: string;
  path: string;
  /** Whether it is cut out on a clear ground. */
  clear: boolean;
  height: number;
}

/** A shop: products in `picture` with a source by type, cards in a grid, thumbnails, densities, a sticker that lies about its size. */
export async function shop(seed: number): Promise<SiteFiles> {
  const dice = new Dice(seed);
  const box = new PictureBox(dice);
  const columns = dice.of([3, 4]);
  const cardWidth = dice.of([900, 1100]);
  const products: Product[] = [];
  for (let index = 0; index < 7; index++) {
    const name = `${word(dice)}-${dice.between(100, 999)}`;
    const path = `/media/${dice.of(['p', 'catalog/products', 'products'])}/${name}`;
    const clear = dice.chance(0.3);
    const master = clear
      ? await box.cutOut(cardWidth, cardWidth)
      : await box.photograph(cardWidth, Math.round(cardWidth / dice.of([1, 0.8, 1.5])));
    const height = await box.store(`${path.slice(1)}.${clear ? 'png' : 'jpg'}`, master);
    await box.store(`${path.slice(1)}.webp`, master);
    await box.store(`${path.slice(1)}_thumb.${clear ? 'png' : 'jpg'}`, master, 300);
    products.push({ name, path, clear, height });
  }
  const banner = await box.photograph(1800, 600);
  await box.store('media/banner@1x.jpg', banner, 900);
  await box.store('media/banner@2x.jpg', banner, 1800);
  await box.store('media/logo.png', await box.drawing(640, 160));
  const face = await box.photograph(400, 400);
  await box.store('media/u/reviewer.jpg', face);

  const ending = ({ clear }: Product) => (clear ? 'png' : 'jpg');
  const upper = dice.chance(0.3);
  const picture = (product: Product, more = '') => {
    const [source, img] = upper ? ['SOURCE', 'IMG'] : ['source', 'img'];
    return `<picture><${source} type="image/webp" srcset="${product.path}.webp"><${img} src='${product.path}.${ending(product)}' width=${cardWidth} height=${product.height} alt="${product.name}"${more}></picture>`;
  };
  const card = (product: Product, index: number) =>
    `      <li class="card">\n        <a href="/items/${product.name}.html">${picture(product, index > 3 && dice.chance(0.6) ? ' loading="lazy"' : '')}</a>\n        <h3>${product.name}</h3>\n      </li>`;
  const frame = (title: string, body: string) =>
    `<!DOCTYPE html>\n<html lang="en">\n<head>\n\t<meta charset="utf-8">\n\t<meta name="viewport" content="width=device-width, initial-scale=1">\n\t<title>${title}</title>\n\t<link rel="stylesheet" href="/assets/shop.css">\n</head>\n<body>\n<header><a href="/"><img src="/media/logo.png" class="logo" alt="${title}"></a></header>\n<main>\n${body}\n</main>\n<footer>${prose(dice, 30)}</footer>\n</body>\n</html>\n`;
  const grid = (some: readonly Product[]) => `    <ul class="grid">\n${some.map(card).join('\n')}\n    </ul>`;
  const pages: SiteFiles = {
    'index.html': frame(
      'Shop',
      `<img class="banner" srcset="/media/banner@1x.jpg 1x, /media/banner@2x.jpg 2x" src="/media/banner@1x.jpg" alt="Sale">\n${grid(products)}`,
    ),
    'c/new.html': frame('New', `<h1>New</h1>\n${grid(products.slice(0, 4))}`),
    'c/all.html': frame('All', `<h1>All</h1>\n${prose(dice, 60)}\n${grid([...products].reverse())}`),
    'assets/shop.css': `body { margin: 0; font: 16px/1.5 sans-serif }\nimg { max-width: 100%; height: auto }\n.logo { width: ${dice.of([120, 160])}px; display: block; padding: 8px }\n.banner { width: 100%; display: block }\nmain { max-width: 1180px; margin: 0 auto; padding: 0 12px }\n.grid { list-style: none; padding: 0; display: grid; gap: 16px; grid-template-columns: 1fr 1fr }\n@media (min-width: ${dice.of([720, 800])}px) { .grid { grid-template-columns: repeat(${columns}, 1fr) } .item { display: flex; gap: 24px } .item > picture { flex: 0 0 50% } }\n.card img { width: 100%; display: block }\n.thumbs { display: flex; gap: 8px } .thumbs img { width: 72px; height: 72px; object-fit: cover }\n.review img { width: 48px; height: 48px; border-radius: 50% }\n`,
  };
  for (const product of products.slice(0, 4)) {
    const thumbs = products
      .slice(0, 3)
      .map((other) => `<img src="${other.path}_thumb.${ending(other)}" alt="${other.name}">`)
      .join('');
    const review = `<div class="review"><img src="/media/u/reviewer.jpg" loading="lazy" alt="A buyer">${prose(dice, 25)}</div>`;
    pages[`items/${product.name}.html`] = frame(
      product.name,
      `<div class="item">${picture(product)}<div>${prose(dice, 40)}<div class="thumbs">${thumbs}</div></div></div>\n${prose(dice, 200)}\n${review}\n${review}`,
    );
  }
  return { ...pages, ...box.files };
}
