import { isOwnSize, mostMadePixels, mostProbedPixels } from '../bytes/probe-plan.js';
import { groupBy } from '../grouping.js';
import type { FileToMake, Fix, ImageFile, PicturePrice, PricePoint } from '../run/types.js';

/** An encode with a setting that is known. Width in device px. */
export interface KnownSetting {
  /** Whether it is the file's own setting, or the one of equal looks. */
  recipe: 'resized' | 'equal-looks';
  format: string;
  width: number;
  quality: number;
}

/** What is to be measured of one picture so that the fixes name no estimates. */
export interface EstimatedPicture {
  url: string;
  /** Device px at which it is encoded to look the same, ascending. */
  widths: number[];
  /**
   * Near its own size it would be compared with its own faults, and very large ones are not compared: there the setting of a smaller version
   * is used.
   */
  settings: KnownSetting[];
}

/** The files that fixes make of measured pictures and whose bytes are still estimates, by picture. */
export function estimatedPictures(
  fixes: readonly Pick<Fix, 'files'>[],
  prices: ReadonlyMap<string, PicturePrice>,
  files: ReadonlyMap<string, ImageFile>,
): EstimatedPicture[] {
  const estimated = fixes
    .flatMap((fix) => fix.files.filter(isEstimate))
    .filter(({ from }) => prices.has(from));
  return [...groupBy(estimated, ({ from }) => from)]
    .flatMap(([url, made]) => {
      const file = files.get(url);
      // A file that does not tell its setting is made smaller so that it looks the same: that is the price that its versions have.
      const hasSetting = (prices.get(url)?.alike.length ?? 0) > 0;
      const asPriced = made.map((each) => (hasSetting ? each : { ...each, recipe: 'equal-looks' as const }));
      return file ? toMeasure(file, asPriced) : [];
    })
    .sort((a, b) => (a.url < b.url ? -1 : 1));
}

type Estimate = FileToMake & Pick<KnownSetting, 'recipe'>;

const isEstimate = (made: FileToMake): made is Estimate =>
  made.error > 0 && (made.recipe === 'resized' || made.recipe === 'equal-looks');

function toMeasure(file: ImageFile, made: readonly Estimate[]): EstimatedPicture[] {
  const pixels = (width: number) => (width * width * file.height) / file.width;
  const [smaller, large] = [
    made.filter(({ width }) => !isOwnSize(file, width) && pixels(width) <= mostProbedPixels),
    made.filter(({ width }) => isOwnSize(file, width) || pixels(width) > mostProbedPixels),
  ];
  const near = large.filter(({ format, width }) => pixels(width) <= mostMadePixels(format));
  const widths = [...new Set(smaller.map(({ width }) => width))].sort((a, b) => a - b);
  const settings = [
    ...new Map(
      near.flatMap(({ recipe, format, width, quality }) =>
        quality === null
          ? []
          : [[`${recipe} ${format} ${width}`, { recipe, format, width, quality }] as const],
      ),
    ).values(),
  ].sort((a, b) => a.width - b.width || (a.format < b.format ? -1 : 1));
  return widths.length + settings.length > 0 ? [{ url: file.url, widths, settings }] : [];
}

/** Two measurements of one picture as one. Where both know a width, the first counts. */
export function joinPrices(known: PicturePrice, more: Pick<PicturePrice, 'alike' | 'formats'>): PicturePrice {
  const formats = [...new Set([...Object.keys(known.formats), ...Object.keys(more.formats)])];
  return {
    ...known,
    alike: joinPoints(known.alike, more.alike),
    formats: Object.fromEntries(
      formats.map((format) => [format, joinPoints(known.formats[format], more.formats[format])]),
    ),
  };
}

const joinPoints = (known: readonly PricePoint[] = [], more: readonly PricePoint[] = []): PricePoint[] =>
  [...new Map([...more, ...known].map((point) => [point.width, point])).values()].sort(
    (a, b) => a.width - b.width,
  );
