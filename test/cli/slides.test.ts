import { expect } from 'chai';
import { auditRun, page, photo, removeSites, siteOf } from '../support/program.js';
import { checksOn, visitOf } from '../support/run-of-page.js';

const oneScreen = ['--screen', 'desk=1000x800@1', '--encode', 'none'];

describe('slideshows', function () {
  this.timeout(240_000);
  after(removeSites);

  it('are let be for ten seconds of their own timers, so that slides are seen and counted apart', async () => {
    const slides = [0, 1, 2].map(
      (index) =>
        `<img src="${index}.jpg" width="400" height="300" alt="Slide" style="display:${index ? 'none' : 'block'}">`,
    );
    const names = Array.from({ length: 6 }, (_, index) => `${index}.jpg`);
    const folder = await siteOf({
      'turns.html': page(
        `<div>${slides.join('')}</div><script>let n = 0; setInterval(() => { const all = document.querySelectorAll('img'); all[n].style.display = 'none'; n = (n + 1) % 3; all[n].style.display = 'block'; }, 4000)</script>`,
      ),
      'strip.html': page(
        `<div style="width:400px;overflow:hidden"><div id="strip" style="display:flex;transition:transform .4s">${[0, 1, 2].map((index) => `<img src="${index}.jpg" width="400" height="300" alt="Slide" style="flex:none">`).join('')}</div></div><script>let n = 0; setInterval(() => { n = (n + 1) % 3; strip.style.transform = 'translateX(' + -400 * n + 'px)' }, 3000)</script>`,
      ),
      'show.html': page(
        `<img src="0.jpg" width="400" height="300" alt="Slide"><script>let n = 0; setInterval(() => { document.images[0].src = ++n % 6 + '.jpg' }, 4000)</script>`,
      ),
      'stage.html': page(
        '<img src="4.jpg" alt="Slide" style="display:none"><img src="5.jpg" alt="Slide" style="display:none"><img id="stage" width="400" height="300" alt="Slide"><script>let n = 0; const show = () => { stage.src = document.images[n++ % 2].src }; show(); setInterval(show, 4000)</script>',
      ),
      // Goes round without end, and never as far as to its last image.
      'round.html': page(
        `<div style="width:400px;overflow:hidden"><div class="strip">${[0, 1, 2, 3].map((index) => `<img src="${index}.jpg" width="400" height="300" alt="Logo">`).join('')}</div></div>`,
        '.strip{display:flex;animation:round 40s linear infinite}.strip img{flex:none}.strip :last-child{margin-left:500px}@keyframes round{to{transform:translateX(-800px)}}',
      ),
      ...Object.fromEntries(
        await Promise.all(names.map(async (name, index) => [name, await photo(400 + index, 300)])),
      ),
    });
    const first = await auditRun(folder, ...oneScreen);
    expect(checksOn(first, '/turns.html')).not.to.include('fetched-never-shown');
    const [one, two, three] = first.placements.filter(({ page: path }) => path === '/turns.html');
    // After ten seconds the third is in view: the others are told as they were when they were.
    expect(one?.shown['desk']).to.include({ seen: true, seenLater: false, drawnWidth: 400 });
    expect(two?.shown['desk']).to.include({ seen: false, seenLater: true, drawnWidth: 400 });
    expect(three?.shown['desk']).to.include({ seen: true, seenLater: true, drawnWidth: 400 });
    expect(three?.shown['desk']?.beforeScroll).to.equal(null);
    expect(checksOn(first, '/strip.html')).not.to.include('fetched-never-shown');
    // Two changes fit into ten seconds.
    expect(visitOf(first, '/show.html')?.byItself.downloads).to.equal(2);
    expect(visitOf(first, '/show.html')?.firstView.downloads).to.equal(1);
    // What a script puts there would not be shown in a picture.
    const [show] = first.placements.filter(({ page: path }) => path === '/show.html');
    expect(show?.shown['desk']?.addressed).to.equal(true);
    // The stage shows 4, 5 and 4 again: no slide has a box of its own, and both are seen.
    const stage = first.placements.filter(({ page: path }) => path === '/stage.html');
    expect(checksOn(first, '/stage.html')).not.to.include('fetched-never-shown');
    expect(stage.map(({ shown }) => shown['desk']?.shownByOther)).to.deep.equal([undefined, true, undefined]);
    const round = first.placements.filter(({ page: path }) => path === '/round.html');
    expect(round.map(({ shown }) => shown['desk']?.seenLater)).to.deep.equal([false, true, true, false]);
    expect(checksOn(first, '/round.html').filter((check) => check === 'fetched-never-shown')).to.have.length(
      1,
    );
    const again = await auditRun(folder, ...oneScreen, '--at-once', '1');
    expect({ ...again, meta: null }).to.deep.equal({ ...first, meta: null });
  });

  it('give slides the slots of those that stand alike beside them, where that is what they were when they were in view', async () => {
    const slide = (name: string, classes: string) =>
      `<div class="slide ${classes}"><img srcset="${name}.jpg 400w, ${name}-large.jpg 1600w" src="${name}.jpg" sizes="100vw" alt="${name}"></div>`;
    const folder = await siteOf({
      'index.html': page(
        `<main>${slide('first', 'on')}${slide('second', '')}${slide('small', 'small')}${slide('never', '')}</main><script>let n = 0; setInterval(() => { const all = document.querySelectorAll('.slide'); all[n].classList.remove('on'); all[n = ++n % 3].classList.add('on') }, 3000)</script>`,
        '.slide{display:none}.on{display:block}.slide img{width:60%;height:auto}.small img{width:40%}',
      ),
      ...Object.fromEntries(
        await Promise.all(
          ['first', 'second', 'small', 'never'].flatMap((name, index) => [
            photo(400 + index, 300).then((file) => [`${name}.jpg`, file] as const),
            photo(1600 + index, 1200).then((file) => [`${name}-large.jpg`, file] as const),
          ]),
        ),
      ),
    });
    const run = await auditRun(folder, ...oneScreen);
    const written = (alt: string) => {
      const slideOf = run.placements.find(({ markup }) => markup.includes(`alt="${alt}"`));
      return run.sweeps.find(({ placement }) => placement === slideOf?.id)?.write;
    };
    expect(written('first')).to.equal('60vw');
    expect(written('second')).to.equal('60vw');
    expect(written('small')).to.equal(undefined);
    expect(written('never')).to.equal(undefined);
  });
});
