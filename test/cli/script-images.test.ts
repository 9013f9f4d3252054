import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { expect } from 'chai';
import { auditRun, page, photo, removeSites, siteOf } from '../support/program.js';
import { mendedInPlace, mendScreens } from '../support/mend-json.js';

const empty = 'data:image/gif;base64,R0lGODlhAQABAIAAAAAAAP///yH5BAEAAAAALAAAAAABAAEAAAIBRAA7';

/** Completes each image from its attributes once it comes near, as scripts do that sites take from elsewhere. */
const script = `<script>
addEventListener('DOMContentLoaded', () => {
  const near = new IntersectionObserver((entries) => {
    for (const { isIntersecting, target } of entries) {
      if (!isIntersecting) continue;
      near.unobserve(target);
      const { src, original, srcset, sizes } = target.dataset;
      if (srcset) {
        target.sizes = sizes === 'auto' ? target.parentElement.clientWidth + 'px' : sizes;
        target.srcset = srcset;
      }
      if (src || original) target.src = src || original;
    }
  }, { rootMargin: '100px' });
  for (const image of document.querySelectorAll('.later')) near.observe(image);
});
</script>`;

describe('images that a script loads from attributes', function () {
  this.timeout(120_000);
  after(removeSites);

  it('are edited there: a file for all screens, or the list, which the script then reads', async () => {
    const list = (name: string) => `data-srcset="${name}-400.jpg 400w, ${name}.jpg 1600w"`;
    const files = ['a', 'b', 'c', 'd', 'e'];
    const folder = await siteOf({
      'index.html': page(
        `<main><img class="later" src="${empty}" data-src="a.jpg" alt="One"><noscript><img src="a.jpg" alt="One"></noscript><p>Text</p>` +
          `<IMG CLASS='later' DATA-ORIGINAL='b.jpg' ALT='Two'><p>Text</p>` +
          `<img class="later" data-src="c.jpg" ${list('c')} data-sizes="auto" alt="Three"><p>Text</p>` +
          `<img class="later" data-src="d.jpg" ${list('d')} data-sizes="100vw" alt="Four"><p>Text</p>` +
          // Nobody can tell which of the two it reads.
          `<img class="later" data-src="e.jpg" data-large="e.jpg" alt="Five"></main>${script}`,
        'main{width:50%}img{width:100%;height:auto}p{height:600px;margin:0}',
      ),
      ...Object.fromEntries(
        await Promise.all(
          files.map(async (name, index) => [`${name}.jpg`, await photo(1600, 1000 + index * 10, 88)]),
        ),
      ),
      'c-400.jpg': await photo(400, 255, 80),
      'd-400.jpg': await photo(400, 258, 80),
    });
    // Half of 400 px at a density of 2 are 400 px, and half of 1,200 px are 600, or a few more so that whole px have the shape of the picture.
    const { copy, tagOf } = await mendedInPlace(folder, '--formats', 'none');
    expect(tagOf('One'))
      .to.match(/data-src="a-60\d\.jpg"/)
      .and.contain(`src="${empty}"`);
    expect(tagOf('One')).to.match(/width="1600"\s+height="1000"/);
    const mended = await readFile(join(copy, 'index.html'), 'utf8');
    expect(mended).to.match(/<img[^>]*data-original="b-60\d\.jpg"[^>]*alt="Two"/i);
    expect(tagOf('Three'))
      .to.match(/data-srcset="c-400\.jpg 400w, c-60\d\.jpg 60\dw, c\.jpg 1600w"/)
      .and.match(/data-sizes="auto"/);
    // For the browser, whether the script passes it on or not.
    expect(tagOf('Four'))
      .to.match(/\ssizes="50vw"/)
      .and.match(/\sdata-sizes="50vw"/);
    expect(tagOf('Five')).to.match(/data-src="e\.jpg" data-large="e\.jpg"/);
    const run = await auditRun(copy, ...mendScreens, '--formats', 'none');
    const taken = run.placements.map(({ downloads }) => [downloads['phone']?.url, downloads['desk']?.url]);
    for (const index of [0, 1]) expect(taken[index]?.join()).to.match(/^\/[ab]-60\d\.jpg,\/[ab]-60\d\.jpg$/);
    for (const index of [2, 3]) expect(taken[index]?.join()).to.match(/^\/[cd]-400\.jpg,\/[cd]-60\d\.jpg$/);
    // The noscript element still names the original.
    const only = run.findings.filter(({ check }) => check === 'shown-only-by-script');
    expect(only.map(({ placement }) => placement)).to.not.include(run.placements[0]?.id);
  });

  it('keep one file where a script writes another into src: beside a list nobody would see it', async () => {
    const folder = await siteOf({
      'index.html': page(
        '<main><img id="large" src="a.jpg" alt="One"><button data-large="b.jpg">Two</button><img class="other" src="c.jpg" alt="Three">' +
          '<img class="listed" srcset="d-400.jpg 400w, d.jpg 1600w" src="d.jpg" alt="Four"></main>' +
          `<img src="e.jpg" onmouseover="this.src='b.jpg'" alt="Five"><a href="#" onmouseover="swap('six', 'b.jpg')">` +
          '<img name="six" src="e.jpg" alt="Six"></a><p class="views"><img src="e.jpg" alt="Seven"></p>' +
          `<script>const large = document.getElementById('large');
            document.querySelector('button').onclick = ({ target }) => { large.src = target.dataset.large; };
            document.querySelector('main').onclick = () => {
              const listed = document.querySelector('.listed');
              listed.srcset = listed.src = 'b.jpg';
            };
            function swap(name, src) { document.images[name].src = src; }
            const views = { all: document.querySelectorAll('.views img') };
            onkeydown = () => { views.all[0].src = 'b.jpg'; };
          </script>`,
        'main{width:50%}main img{width:100%;height:auto}',
      ),
      'a.jpg': await photo(1600, 1000, 88),
      'e.jpg': await photo(600, 400, 92),
      'b.jpg': await photo(1600, 1000, 70),
      'c.jpg': await photo(1600, 1010, 88),
      'd.jpg': await photo(1600, 1020, 88),
      'd-400.jpg': await photo(400, 255, 80),
    });
    const { mended, tagOf } = await mendedInPlace(folder);
    // 1,200 px at a density of 1 and 400 at 2: half of the larger is 600.
    expect(tagOf('One'))
      .to.match(/^<img\s+id="large"\s+src="a-60\d\.jpg"/)
      .and.not.match(/srcset/);
    for (const name of ['Five', 'Six', 'Seven']) expect(tagOf(name)).to.match(/src="e[^"]*\.jpg"/);
    expect(tagOf('Four')).to.match(/d-60\d\.jpg 60\dw/);
    expect(mended.match(/<picture>/g)).to.have.length(1);
    expect(mended).to.match(/<picture>\s*<source\s+type="image\/avif"[^>]*c-[^>]*>\s*<img\s+class="other"/);
  });

  it('keep one file where a script copies their addresses into others: what stands beside src would come as well', async () => {
    const names = [...'abcdef'];
    const folder = await siteOf({
      'index.html': page(
        '<div class="slides"><img src="a.jpg" alt="One"><img src="b.jpg" alt="Two"></div><p><img src="c.jpg" alt="Three"></p>' +
          `<section><p><img src="d.jpg" alt="Four"></p></section><p><img src="e.jpg" alt="Five"></p><p><img src="f.jpg" alt="Six"></p><p class="last"></p><script type="module">
            const slides = [...document.querySelectorAll('.slides img')];
            const stage = document.body.appendChild(new Image());
            let next = 0;
            const turn = () => { stage.src = slides[next++ % 2].src; };
            turn();
            setInterval(turn, 3000);
            const third = document.querySelector('[alt="Three"]');
            document.body.insertAdjacentHTML('beforeend', '<img src="' + third.getAttribute('src') + '">');
            document.body.append(document.querySelector('[alt="Four"]').closest('p').cloneNode(true));
            document.body.append(document.querySelector('[alt="Five"]').cloneNode());
            // It would leave its picture behind.
            document.querySelector('.last').append(document.querySelector('[alt="Six"]'));
          </script>`,
        'img{width:400px;height:auto}',
      ),
      ...Object.fromEntries(
        await Promise.all(
          names.map(async (name, index) => [`${name}.jpg`, await photo(900, 600 + index * 10, 88)]),
        ),
      ),
    });
    const { mended, tagOf } = await mendedInPlace(folder);
    for (const name of ['One', 'Two', 'Three', 'Five', 'Six'])
      expect(tagOf(name))
        .to.match(/^<img\s+src="/)
        .and.not.match(/srcset/);
    // What is copied with what it stands in brings its picture along.
    expect(mended.match(/<picture>/g)).to.have.length(1);
    expect(mended).to.match(/<picture>\s*<source\s+type="image\/avif"[^>]*d-[^>]*>/);
  });

  it('keep the pixels that they are shown with elsewhere, and what shows them there follows', async () => {
    const names = [...'abcdefg'];
    const folder = await siteOf({
      'index.html': page(
        '<p><img src="a.jpg" alt="One"><img src="b.jpg" alt="Two"><img src="c.jpg" alt="Three"></p><div></div><script type="module">' +
          `const [one, , three] = document.querySelectorAll('p img');
            const stage = document.querySelector('div').appendChild(new Image());
            stage.src = one.src;
            setTimeout(() => { stage.src = three.src; }, 3000);
          </script>`,
        'p{display:flex;margin:0}p img{width:100px;height:auto}div img{width:100%;max-width:500px;height:auto}',
      ),
      'click.html': page(
        '<p><img src="d.jpg" onclick="show(this)" alt="Four"><img class="large" src="e.jpg" alt="Five"><img src="f.jpg" alt="Six"></p>' +
          `<div id="box" hidden><img id="shown"></div><script>
            const show = (image) => { document.getElementById('shown').src = image.src; document.getElementById('box').hidden = false; };
            document.querySelector('.large').addEventListener('click', (event) => show(event.target));
          </script>`,
        'p{display:flex;margin:0}p img{width:100px;height:auto}.large{cursor:zoom-in}',
      ),
      // Where a script puts something while the page is parsed, that looks as if the page had it.
      'parsed.html': page(
        '<p><img src="a.jpg" alt="One"><img src="g.jpg" alt="Seven"></p><div></div><script>' +
          `for (const image of document.querySelectorAll('p img'))
            document.querySelector('div').innerHTML += '<img src="' + image.src + '">';
          </script>`,
        'p{display:flex;margin:0}p img{width:100px;height:auto}div img{width:350px;height:auto}',
      ),
      ...Object.fromEntries(
        await Promise.all(
          names.map(async (name, index) => [`${name}.jpg`, await photo(1500, 1000 + index * 10, 88)]),
        ),
      ),
    });
    const { copy, mended, tagOf } = await mendedInPlace(folder, '--formats', 'none');
    // On the stage 500 CSS px at a density of 1, and 400 at 2; the second one was not there while the page was seen.
    for (const [name, file] of Object.entries({ One: 'a', Two: 'b', Three: 'c' }))
      expect(tagOf(name)).to.match(new RegExp(`^<img\\s+src="${file}-80\\d\\.jpg"`));
    expect(mended).to.not.match(/srcset/);
    const clicked = await readFile(join(copy, 'click.html'), 'utf8');
    // As wide as the window of 1,200 px.
    for (const file of ['d', 'e']) expect(clicked).to.match(new RegExp(`src="${file}-120\\d\\.jpg"`));
    // 350 CSS px at a density of 2.
    const parsed = await readFile(join(copy, 'parsed.html'), 'utf8');
    expect(parsed)
      .to.match(/src="g-70\d\.jpg"/)
      .and.not.match(/srcset/);
    expect(clicked).to.match(/srcset="f-100\.jpg|f-100[^>]*alt="Six"/);
  });

  it('are edited in the sources of a picture too', async () => {
    const folder = await siteOf({
      'index.html': page(
        '<main><picture><source data-srcset="a-400.jpg 400w, a.jpg 1600w" data-sizes="100vw">' +
          '<img data-src="a.jpg" src="tiny.jpg" width="1600" height="1000" alt="One"></picture></main>' +
          `<script>for (const part of document.querySelectorAll('picture > *')) {
            if (part.dataset.srcset) {
              part.sizes = part.dataset.sizes;
              part.srcset = part.dataset.srcset;
            }
            if (part.dataset.src) part.src = part.dataset.src;
          }</script>`,
        'main{width:50%}img{width:100%;height:auto}',
      ),
      'a.jpg': await photo(1600, 1000, 88),
      'a-400.jpg': await photo(400, 250, 80),
      'tiny.jpg': await photo(32, 20, 40),
    });
    const { copy, mended } = await mendedInPlace(folder, '--formats', 'none');
    expect(mended).to.match(
      /<source\s+data-srcset="\s*a-400\.jpg 400w,\s+a-600\.jpg 600w,\s+a\.jpg 1600w"\s+sizes="50vw"\s+data-sizes="50vw">/,
    );
    expect(mended).to.match(/<img\s+data-src="a\.jpg"\s+src="tiny\.jpg"\s+width="1600"/);
    const run = await auditRun(copy, ...mendScreens, '--formats', 'none');
    const taken = run.placements[0]?.downloads;
    expect([taken?.['phone']?.url, taken?.['desk']?.url]).to.deep.equal(['/a-400.jpg', '/a-600.jpg']);
  });
});
