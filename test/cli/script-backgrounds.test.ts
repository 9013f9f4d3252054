import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { expect } from 'chai';
import { mendJson } from '../support/mend-json.js';
import { page, photo, removeSites, siteOf } from '../support/program.js';

describe('backgrounds that a script writes from attributes', function () {
  this.timeout(240_000);
  after(removeSites);

  it('are edited where their addresses stand, and nowhere else', async () => {
    const folder = await siteOf({
      'index.html': page(
        '<p class="note" data-note="a.jpg">What nobody shows</p><div class="box" data-bg="a.jpg"></div>' +
          "<table><tr><td class=half data-setbg='b.jpg'></td></tr></table>" +
          '<div class="box" data-more=\'{"url":"c.jpg"}\'></div><button data-full="e.jpg">Whole</button><div class="box by-name"></div><p style="height:3000px">Text</p>' +
          `<div class="box" data-lazy=d.jpg></div><script>
            const show = (element, url) => { element.style.backgroundImage = 'url(' + url + ')' };
            for (const each of document.querySelectorAll('[data-bg]')) show(each, each.dataset.bg);
            for (const each of document.querySelectorAll('[data-setbg]')) show(each, each.dataset.setbg);
            for (const each of document.querySelectorAll('[data-more]')) show(each, JSON.parse(each.dataset.more).url);
            show(document.querySelector('.by-name'), 'e.jpg');
            const late = document.querySelector('[data-lazy]');
            new IntersectionObserver(([seen]) => {
              if (!seen.isIntersecting) return;
              show(late, late.dataset.lazy);
              late.removeAttribute('data-lazy');
              late.classList.add('loaded');
            }).observe(late);
          </script>`,
        'div,td{background-size:cover}.box{width:300px;height:200px}.half{padding:0;width:150px;height:100px}',
      ),
      'a.jpg': await photo(1200, 800, 75),
      'b.jpg': await photo(1203, 802, 75),
      'c.jpg': await photo(1206, 804, 75),
      'd.jpg': await photo(1209, 806, 75),
      'e.jpg': await photo(1212, 808, 75),
    });
    const copy = join(await siteOf({}), 'copy');
    const { out, code, err } = await mendJson(folder, '--to', copy, '--formats', 'none');
    expect(code, err).to.equal(0);
    const mended = await readFile(join(copy, 'index.html'), 'utf8');
    // Two device px for each CSS px of the phone.
    expect(mended).to.include('<div class="box" data-bg="a-600.jpg"></div>');
    expect(mended).to.include('<td class=half data-setbg="b-300.jpg"></td>');
    expect(mended).to.include('<div class="box" data-lazy="d-600.jpg"></div>');
    expect(mended).to.include('data-note="a.jpg"').and.to.include('data-more=\'{"url":"c.jpg"}\'');
    // The button is neither the element that shows it nor around that.
    expect(mended).to.include('data-full="e.jpg"');
    const { average, kept } = out.proof ?? {};
    expect(kept).to.equal(true);
    expect(average?.promised).to.be.greaterThan(0).and.equal(average?.achieved);
  });
});
