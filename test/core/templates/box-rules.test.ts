import { expect } from 'chai';
import { BoxRules, type SeenBox } from '../../../src/core/templates/box-rules.js';

const size = (width: number, height: number) => ({ width, height });

/** A picture of a natural size in a box. */
const seen = (natural: [number, number], box: [x: number, width: number, height: number]): SeenBox => ({
  natural: size(...natural),
  stated: undefined,
  box: { x: box[0], y: 0, width: box[1], height: box[2] },
});

describe('what decides about the box of an image', () => {
  it('is its column and the shape of its file', () => {
    const rules = BoxRules.learn([
      seen([1600, 800], [16, 400, 200]),
      seen([900, 900], [16, 400, 400]),
      seen([1200, 800], [16, 400, 266.67]),
    ]);
    expect(rules?.boxOf({ natural: size(1000, 250), stated: undefined })).to.deep.equal({
      x: 16,
      width: 400,
      height: 100,
    });
  });

  it('is its own width up to that of its column, from the left, the middle or the right', () => {
    const own = [seen([200, 100], [116, 200, 100]), seen([1000, 500], [16, 400, 200])];
    const rules = BoxRules.learn(own);
    expect(rules?.boxOf({ natural: size(300, 150), stated: undefined })).to.deep.equal({
      x: 66,
      width: 300,
      height: 150,
    });
    expect(rules?.boxOf({ natural: size(800, 800), stated: undefined })).to.deep.equal({
      x: 16,
      width: 400,
      height: 400,
    });
  });

  it('is not known where what was seen leaves it open', () => {
    // A fixed height, or the shape of the file: both explain pictures of one shape.
    const alike = BoxRules.learn([seen([1500, 1000], [0, 300, 200]), seen([900, 600], [0, 300, 200])]);
    expect(alike?.boxOf({ natural: size(600, 400), stated: undefined })?.height).to.equal(200);
    expect(alike?.boxOf({ natural: size(600, 600), stated: undefined })).to.equal(undefined);
    // A picture that is narrower than the column, of which no other was.
    expect(alike?.boxOf({ natural: size(150, 100), stated: undefined })).to.equal(undefined);
  });

  it('follows no rule where pages differ by more than that', () => {
    expect(BoxRules.learn([seen([1500, 1000], [0, 300, 200]), seen([1500, 1000], [0, 280, 187])])).to.equal(
      undefined,
    );
    const hidden = { ...seen([100, 100], [0, 0, 0]), box: null };
    expect(BoxRules.learn([seen([100, 100], [0, 100, 100]), hidden])).to.equal(undefined);
    expect(BoxRules.learn([hidden, hidden])?.boxOf({ natural: undefined, stated: undefined })).to.equal(null);
  });

  it('is what its attributes say before the file is there', () => {
    const waiting = (stated: [number, number], height: number): SeenBox => ({
      natural: size(500, 500),
      stated: size(...stated),
      box: { x: 0, y: 0, width: 250, height },
    });
    const rules = BoxRules.learn([waiting([400, 200], 125), waiting([300, 300], 250)]);
    expect(rules?.boxOf({ natural: size(500, 500), stated: size(300, 900) })?.height).to.equal(750);
  });
});
