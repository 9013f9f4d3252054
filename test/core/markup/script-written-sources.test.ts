import { expect } from 'chai';
import { copiesSource, writtenSources } from '../../../src/core/markup/script-written-sources.js';

describe('images whose src a script writes', () => {
  for (const [script, selectors] of [
    ["document.getElementById('big').src = next", ['#big']],
    [
      'const large = document.getElementById("main-photo");\nshow = (t) => { large.src = t.href; };',
      ['#main-photo'],
    ],
    ["$('#zoom').attr('src', url)", ['#zoom']],
    ['var $m=$(".main img"); $m.attr("src", y)', ['.main img']],
    ["document.querySelector('.hero').setAttribute('src', z)", ['.hero']],
    // By its name, as a variable of the window.
    ["stage.src = n + '.jpg'", ['#stage', 'img[name="stage"]']],
    ["document.images['logo'].src = on.src", ['#logo', 'img[name="logo"]']],
    ['document.logo.src=off.src', ['#logo', 'img[name="logo"]']],
    ['document.images[n].src = z', []],
    ["document.querySelectorAll('.slides img')[0].src = z", ['.slides img']],
    ["const all = document.querySelectorAll('.x img'); all[i + 1].src = z", ['.x img']],
    [
      "const all = document.querySelectorAll('.x img'); all.forEach((one, i) => { one.src = list[i]; })",
      ['.x img'],
    ],
    ["let all=$('.x img'); for (const one of all) one.src = z", ['.x img']],
    ["this.image = root.querySelector('.big'); show(u) { this.image.src = u }", ['.big']],
    ["const parts = { main: document.getElementById('m') }; parts.main.src = u", ['#m']],
    // In short code one letter means another thing in each function.
    [`e=document.querySelector('.hero');${' '.repeat(300)}e.src=t`, []],
    // Lazy loading takes the address from the element itself.
    ['images.forEach((i) => { i.src = i.dataset.src })', []],
    ["let img = document.querySelector('.late'); img.src = img.getAttribute('data-src')", []],
    ['if (a.src == b) { c = a.src }', []],
    ['this.image.src = z', []],
    // What is found by a second step is another element.
    ["const child = document.querySelector('.a').firstChild; child.alt = ''", []],
  ] as const)
    it(`in ${JSON.stringify(script.replace(/ {9,}/, ' … '))}: ${selectors.join() || 'none'}`, () => {
      expect(writtenSources(script)).to.deep.equal(selectors);
    });
});

describe('a script that takes the src of an image for another one', () => {
  for (const script of [
    'function show(img) { big.src = img.src; }',
    "modalImg.src=this.src;caption.innerHTML='x'",
    'stage.src = slides[n].src',
    "large.src = thumb.getAttribute('src')",
    "$('#large').attr('src', $(this).attr('src'))",
    "view.setAttribute('src', e.target.src)",
  ])
    it(`is told: ${script}`, () => {
      expect(copiesSource(script)).to.equal(true);
    });

  for (const script of [
    'img.src = img.dataset.src',
    'image.src = link.href',
    "large.src = 'large.jpg'",
    "$('#large').attr('src', $(this).attr('data-src'))",
    'if (a.src == b.src) next()',
    'img.src = img.srcset',
  ])
    it(`is not told from others: ${script}`, () => {
      expect(copiesSource(script)).to.equal(false);
    });
});
