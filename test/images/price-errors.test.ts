import { expect } from 'chai';
import { priceErrors, quantile } from '../support/price-errors.js';
import { variedPictures } from '../support/varied-pictures.js';

describe('estimated prices', function () {
  this.timeout(300_000);

  it('of forty varied pictures at widths that were not encoded are near to real encodes', async () => {
    const pictures = await variedPictures(1000);
    expect(pictures).to.have.length(40);
    const errors = await priceErrors(pictures, [240, 480, 960], [330, 680], ['jpeg', 'webp', 'avif']);
    // Three formats at two widths.
    expect(errors).to.have.length(240);
    expect(quantile(errors, 0.5)).to.be.at.most(0.035);
    expect(quantile(errors, 0.95)).to.be.at.most(0.12);
  });
});
