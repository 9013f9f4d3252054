import { expect } from 'chai';
import { priceErrors, quantile } from '../support/price-errors.js';
import { variedPictures } from '../support/varied-pictures.js';

/** All of them where more cases are asked for. */
const whole = Number(process.env['YUKKURI_CASES'] ?? 0) >= 1000;

describe('estimated prices', function () {
  this.timeout(300_000);

  it('of varied pictures at widths that were not encoded are near to real encodes', async () => {
    const pictures = await variedPictures(1000, whole ? 1 : 10);
    expect(pictures).to.have.length(whole ? 40 : 4);
    const errors = await priceErrors(pictures, [240, 480, 960], [330, 680], ['jpeg', 'webp', 'avif']);
    // Three formats at two widths.
    expect(errors).to.have.length(pictures.length * 6);
    expect(quantile(errors, 0.5)).to.be.at.most(0.035);
    expect(quantile(errors, 0.95)).to.be.at.most(0.12);
  });
});
