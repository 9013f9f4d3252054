/** A request of a page, as far as its answer depends on it. */
export interface PageRequest {
  url: string;
  method: string;
  headers: Readonly<Record<string, string>>;
  body?: string | undefined;
  /** Resource type in the browser's words: Document, Image, … */
  resource?: string;
}

/** What a page is given for a request. */
export interface PageAnswer {
  status: number;
  headers: { name: string; value: string }[];
  /** Decoded. */
  body: Buffer;
  /** Of the body as it came over the network, bytes. */
  wireBytes: number;
}

/** Requests for documents and images ask as this browser does. Fetch standard, 2.2.2 and 5.4. */
export const acceptedBy = {
  document:
    'text/html,application/xhtml+xml,application/xml;q=0.9,image/avif,image/webp,image/apng,*/*;q=0.8,application/signed-exchange;v=b3;q=0.7',
  image: 'image/avif,image/webp,image/apng,image/svg+xml,image/*,*/*;q=0.8',
  other: '*/*',
} as const;
