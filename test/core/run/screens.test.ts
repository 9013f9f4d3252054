import { expect } from 'chai';
import {
  defaultScreens,
  parseScreen,
  readRun,
  RunFormatError,
  ScreenError,
  shareOut,
} from '../../../src/core/run/index.js';

describe('a screen’s description', () => {
  it('is read with its parts', () => {
    expect(parseScreen('phone=390x844@3,touch,share=0.6')).to.deep.equal({
      name: 'phone',
      width: 390,
      height: 844,
      density: 3,
      touch: true,
      share: 0.6,
    });
  });
  for (const text of [
    '',
    'x',
    'a=1',
    'a=0x100',
    'a=10x10@0',
    'a=10x10@99',
    'a=10x10,loud',
    'a=10x10,share=x',
    'a=20000x10',
    'a=10.5x10',
  ])
    it(`is refused when it makes no sense: "${text}"`, () =>
      expect(() => parseScreen(text)).to.throw(ScreenError));

  it('shares out visits that are not given', () => {
    const screens = shareOut(['a=1x1,share=0.5', 'b=1x1', 'c=1x1'].map(parseScreen));
    expect(screens.map(({ share }) => share)).to.deep.equal([0.5, 0.25, 0.25]);
    expect(shareOut(defaultScreens).reduce((sum, { share }) => sum + share, 0)).to.be.closeTo(1, 1e-12);
  });
  it('scales shares that do not sum to 1', () => {
    expect(
      shareOut(
        ['a=1x1,share=3', 'b=1x1,share=1'].map((text) => ({
          ...parseScreen(text.replace(/,share.*/, '')),
          share: Number(text.split('=').at(-1)),
        })),
      ).map(({ share }) => share),
    ).to.deep.equal([0.75, 0.25]);
  });
});

describe('a run file', () => {
  it('of another format is refused with what is wrong and what to do', () => {
    expect(() => readRun({ format: 'other/1' })).to.throw(
      RunFormatError,
      /not a run file of format yukkuri-run\/2/,
    );
    expect(() => readRun(null)).to.throw(RunFormatError);
    expect(() => readRun({ format: 'yukkuri-run/1' })).to.throw(RunFormatError);
  });
});
