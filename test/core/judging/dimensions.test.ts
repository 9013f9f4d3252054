import { expect } from 'chai';
import { dimensionEdits } from '../../../src/core/judging/dimensions.js';
import { factsOf } from '../../../src/core/judging/facts.js';
import { editMarkup } from '../../../src/core/plan/tag.js';
import type { Screen, Shown } from '../../../src/core/run/index.js';
import { oneScreen, someFacts, someFile, somePlacement, shownOn } from '../../support/facts.js';

interface OnScreen {
  slot: [width: number, height: number];
  from: Pick<Shown, 'widthFrom' | 'heightFrom'> & Partial<Pick<Shown, 'limitWidth' | 'limitHeight'>>;
}

const file = someFile({ url: '/a.jpg', width: 900, height: 600 });

/** The tag as it is pasted, for an image of 900 × 600 px that screens show so. */
function pasted(attributes: string, ...screens: OnScreen[]): string {
  const seen = screens.map(({ slot, from }, index) => {
    const screen: Screen = { ...oneScreen, name: `screen ${index}` };
    return {
      screen,
      ...shownOn(screen, { url: file.url, bytes: file.bytes, slot, file: [900, 600], more: from }),
    };
  });
  const all = <Key extends 'slots' | 'picks' | 'downloads' | 'shown'>(key: Key) =>
    Object.assign({}, ...seen.map((each) => each[key])) as (typeof seen)[number][Key];
  const placement = somePlacement({
    id: '/#1',
    markup: `<img src="a.jpg"${attributes}>`,
    candidates: [file.url],
    slots: all('slots'),
    picks: all('picks'),
    downloads: all('downloads'),
    shown: all('shown'),
  });
  const facts = factsOf(
    someFacts({ screens: seen.map(({ screen }) => screen), placements: [placement], files: [file] }),
  );
  return editMarkup(placement.markup, dimensionEdits(placement, facts)).replace(/\s+/g, ' ');
}

const nothing = { widthFrom: 'nothing', heightFrom: 'nothing' } as const;
const byWidth = { widthFrom: 'attribute', heightFrom: 'nothing' } as const;
const byHeight = { widthFrom: 'nothing', heightFrom: 'attribute' } as const;

describe('the dimensions that are written', () => {
  it('are those of the file where nothing gives the box a side', () => {
    expect(pasted('', { slot: [900, 600], from: nothing })).to.equal(
      '<img src="a.jpg" width="900" height="600">',
    );
  });

  it('leave the height free where a style limits the width: some screen is narrower than the file', () => {
    expect(pasted('', { slot: [900, 600], from: { ...nothing, limitWidth: 1000 } })).to.equal(
      '<img src="a.jpg" width="900" height="600" style="height: auto">',
    );
  });

  it('keep the width that the tag gives the box, and have the shape of the file', () => {
    expect(pasted(' width="210"', { slot: [210, 140], from: byWidth })).to.equal(
      '<img src="a.jpg" width="210" height="140">',
    );
    const auto = { widthFrom: 'attribute', heightFrom: 'auto' } as const;
    expect(pasted(' width="48" height="24"', { slot: [48, 32], from: auto })).to.equal(
      '<img src="a.jpg" width="48" height="32">',
    );
    // Narrower where a style limits it.
    expect(
      pasted(
        ' width="210"',
        { slot: [210, 140], from: byWidth },
        { slot: [150, 100], from: { ...byWidth, limitWidth: 150 } },
      ),
    ).to.equal('<img src="a.jpg" width="210" height="140" style="height: auto">');
  });

  it('keep the height that the tag gives the box', () => {
    expect(pasted(' height="90"', { slot: [135, 90], from: byHeight })).to.equal(
      '<img src="a.jpg" width="135" height="90">',
    );
  });

  it('say a share in a style, and the shape in the attributes', () => {
    expect(pasted(' width="50%"', { slot: [500, 333], from: byWidth })).to.equal(
      '<img src="a.jpg" width="900" height="600" style="width: 50%; height: auto">',
    );
  });

  it('are not written where the style would outdo what a style sheet says elsewhere', () => {
    const styled = { widthFrom: 'style', heightFrom: 'auto' } as const;
    expect(
      pasted(' width="50%"', { slot: [500, 333], from: byWidth }, { slot: [300, 200], from: styled }),
    ).to.equal('<img src="a.jpg" width="50%">');
  });

  it('are not written where one screen takes its width from them and another its height', () => {
    const stretched = { widthFrom: 'attribute', heightFrom: 'attribute' } as const;
    const auto = { widthFrom: 'attribute', heightFrom: 'auto' } as const;
    expect(
      pasted(' width="48" height="24"', { slot: [48, 24], from: stretched }, { slot: [48, 32], from: auto }),
    ).to.equal('<img src="a.jpg" width="48" height="24">');
    // A height that a style sets free on one screen, where the width follows from the file.
    const free = { widthFrom: 'nothing', heightFrom: 'auto' } as const;
    expect(
      pasted(' height="90"', { slot: [135, 90], from: byHeight }, { slot: [900, 600], from: free }),
    ).to.equal('<img src="a.jpg" height="90">');
  });

  it('are not written where a style sheet gives the height on another screen, which the style of the tag would outdo', () => {
    const styled = { widthFrom: 'style', heightFrom: 'style' } as const;
    expect(
      pasted(
        '',
        { slot: [900, 600], from: { ...nothing, limitWidth: 1000 } },
        { slot: [390, 120], from: styled },
      ),
    ).to.equal('<img src="a.jpg">');
  });

  it('are not written where the box may be as wide as it is because its height is limited', () => {
    expect(pasted('', { slot: [300, 200], from: { ...nothing, limitWidth: 1000 } })).to.equal(
      '<img src="a.jpg">',
    );
    // Held by something else, as in a row that shrinks what stands in it.
    expect(pasted('', { slot: [300, 600], from: nothing })).to.equal(
      '<img src="a.jpg" width="900" height="600" style="height: auto">',
    );
  });

  it('are not written where the height may soon be limited too: the width would not follow it', () => {
    const limited = { ...nothing, limitWidth: 300 };
    const at = (limitHeight: number) => pasted('', { slot: [300, 200], from: { ...limited, limitHeight } });
    expect(at(250)).to.equal('<img src="a.jpg">');
    // Half as high again, and as high as the file can be at all.
    for (const limit of [301, 600])
      expect(at(limit)).to.equal('<img src="a.jpg" width="900" height="600" style="height: auto">');
  });

  it('are those of the file where the attributes of a source give the box its sides elsewhere', () => {
    const bySource = { widthFrom: 'attribute', heightFrom: 'attribute' } as const;
    expect(pasted('', { slot: [400, 267], from: bySource }, { slot: [900, 600], from: nothing })).to.equal(
      '<img src="a.jpg" width="900" height="600">',
    );
  });
});
