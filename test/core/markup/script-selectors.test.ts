import { expect } from 'chai';
import { structuralSelectors } from '../../../src/core/markup/script-selectors.js';

describe('selectors in scripts', () => {
  it('are taken where an element more would make them find others', () => {
    const script = `
      var all = document.querySelectorAll('.slides > img'); // it's the first one
      $("#gallery img:first-child").show(); $('[data-role="thumb"] > img').hide()
      const next = root.querySelector(\`img.big + .caption\`); $('.a~img')`;
    expect(structuralSelectors(script)).to.include.members([
      '.slides > img',
      '#gallery img:first-child',
      '[data-role="thumb"] > img',
      'img.big + .caption',
      '.a~img',
    ]);
  });

  it('are none where descendants are meant, nothing is named, or it is other text', () => {
    const script = `$('.slides img'); $(':first-child'); $('ul > *'); el.innerHTML = '<p>a > b</p>'; x = 'a' + b; $('.menu > li')`;
    expect(structuralSelectors(script)).to.deep.equal([]);
    expect(structuralSelectors('')).to.deep.equal([]);
  });

  it('are at most two hundred, and quickly found in a long line', () => {
    const script = Array.from({ length: 500 }, (_, index) => `$(".a${index} > img")`).join(';');
    expect(structuralSelectors(script)).to.have.length(200);
  });
});
