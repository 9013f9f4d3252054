import type { FileToMake } from './fix-types.js';

/** A small picture that a report shows. */
export interface ReportPicture {
  /** A `data:` URL. */
  url: string;
  /** Size at which it is shown, CSS px of the report. */
  width: number;
  height: number;
}

/** What a visitor sees of a page's first view while its images are awaited, and with them. */
export interface PageViews {
  page: string;
  screen: string;
  held: ReportPicture;
  loaded: ReportPicture;
}

/** The same part of a picture as it is delivered and as a fix would have it, dot for dot as a screen shows them. */
export interface FixDetail {
  fix: string;
  screen: string;
  placement: string;
  before: { url: string; bytes: number; picture: ReportPicture };
  after: Pick<FileToMake, 'bytes'> & { url: string; picture: ReportPicture };
  /** Where the two differ: the brighter, the more. */
  difference: ReportPicture;
  /** The largest difference of any dot in any colour, 0 to 255. */
  largest: number;
}

/** The pictures of one report. */
export interface ReportPictures {
  views: PageViews[];
  details: FixDetail[];
  /** Said where pictures are missing. */
  notes: string[];
}
