import { expect } from 'chai';
import { auditRun, page, photo, removeSites, siteOf } from '../support/program.js';

describe('A picture around an image', function () {
  this.timeout(60_000);
  after(removeSites);

  it('can stand around others than the one that only a child of its parent is styled as', async () => {
    const folder = await siteOf({
      'index.html': page(
        '<main><img class="lead" src="a.jpg" alt="One"><p>Text</p><img src="b.jpg" width="90" height="60" alt="Two"></main>' +
          // What does not load shows its text alternative, and is not tried.
          '<p><img src="none.jpg" alt="A text that stands in its place"></p>',
        'main > img.lead{width:50%;height:auto;margin:20px}',
      ),
      'a.jpg': await photo(600, 400),
      'b.jpg': await photo(300, 200),
    });
    const run = await auditRun(folder, '--screen', 'desk=1000x700@1', '--encode', 'none');
    expect(run.placements.map(({ shown }) => shown['desk']?.pictureWrap)).to.deep.equal([
      'none',
      'spaced',
      null,
    ]);
  });

  it('stands around none whose height a style leaves free only where it is a child: width and height would give it one', async () => {
    const folder = await siteOf({
      'index.html': page(
        '<main><img class="lead" src="a.jpg" alt="One"><p>Text</p><p class="in"><img src="b.jpg" alt="Two"></p></main>',
        'img{width:300px}main > .lead, .in img{height:auto}',
      ),
      'a.jpg': await photo(900, 400),
      'b.jpg': await photo(900, 500),
    });
    const run = await auditRun(folder, '--screen', 'desk=1000x700@1', '--encode', 'none');
    expect(run.placements.map(({ shown }) => shown['desk']?.pictureWrap)).to.deep.equal(['none', 'spaced']);
  });

  it('makes no line higher in which the parents of several images stand', async () => {
    const round = (name: string) => `<a class="round" href="#"><img src="${name}.jpg" alt="${name}"></a>\n`;
    const folder = await siteOf({
      'index.html': page(
        `<main><div><div class="group">${[...'abc'].map(round).join('')}</div></div><p>Text</p></main>`,
        'main{font:16px/1.6 sans-serif}.round{display:inline-flex;align-items:center;justify-content:center;width:36px;height:36px}' +
          '.round img{display:inline;width:100%;height:auto;vertical-align:middle}',
      ),
      ...Object.fromEntries(
        await Promise.all(
          [...'abc'].map(async (name, index) => [`${name}.jpg`, await photo(400 + index, 400 + index)]),
        ),
      ),
    });
    const run = await auditRun(folder, '--screen', 'desk=1000x700@1', '--encode', 'none');
    // The first baseline in a flexible box is that of a picture's text, or the lower edge of a bare image.
    expect(run.placements.map(({ shown }) => shown['desk']?.pictureWrap)).to.deep.equal(
      Array.from({ length: 3 }, () => 'boxless'),
    );
  });

  it('stands around none that a script of the page would not find any more', async () => {
    const slides = (names: string) =>
      names
        .split('')
        .map((name) => `<img src="${name}.jpg" width="90" height="60" alt="${name}">`)
        .join('');
    const folder = await siteOf({
      'index.html': page(
        `<div class="slides">${slides('ab')}</div><div class="other">${slides('c')}</div><div class="big">${slides('d')}<p class="text">Text</p></div>` +
          `<script src="show.js"></script><script>document.querySelector("img + .text").title = 'x'</script>`,
        '.slides img{display:none}.slides .on{display:block}',
      ),
      // One of the slides waits for its turn.
      'show.js': `let all = document.querySelectorAll('.slides > img'); all[0].classList.add('on'); document.querySelectorAll('.other img')`,
      ...Object.fromEntries(
        await Promise.all(
          [...'abcd'].map(async (name, index) => [`${name}.jpg`, await photo(300 + index, 200)]),
        ),
      ),
    });
    const run = await auditRun(folder, '--screen', 'desk=1000x700@1', '--encode', 'none');
    expect(run.placements.map(({ shown }) => shown['desk']?.pictureWrap)).to.deep.equal([
      'none',
      'none',
      'spaced',
      'none',
    ]);
  });

  it('is tried in shadow trees too, by what their hosts stand in', async () => {
    const host = (name: string, style: string, file: string) =>
      `<${name}><template shadowrootmode="open"><style>img{width:90px;height:auto;${style}}</style><img src="${file}" width="300" height="200" alt=""></template></${name}>`;
    const folder = await siteOf({
      'index.html': page(
        // A space inside would move the text behind the first one.
        `<p>${host('in-line', '', 'a.jpg')}<b>Text</b></p>${host('in-block', 'display:block', 'b.jpg')}<p>Text</p>`,
        'in-block{display:block}',
      ),
      'a.jpg': await photo(300, 200),
      'b.jpg': await photo(303, 202),
    });
    const run = await auditRun(folder, '--screen', 'desk=1000x700@1', '--encode', 'none');
    expect(run.placements.map(({ shown }) => shown['desk']?.pictureWrap)).to.deep.equal(['close', 'spaced']);
  });
});
