import { SiteError } from '../errors.js';
import type { Answers, PageCookie, Site } from '../site.js';
import { typeOfFile } from '../server.js';
import { headerOf, isAnswered, isPage, redirectOf, type Answer } from './answer.js';
import { BodyFolder } from './body-folder.js';
import { HttpClient } from './client.js';
import { basicAuthorization, cookiesOf, parseHeaders, readCookies } from './credentials.js';
import { fileNameOf } from './file-names.js';
import { PageFinder, type FindingProgress, type FoundPages } from './find-pages.js';
import { isAddress } from './is-address.js';
import { isNamed, networkOf } from './network.js';
import { plainAddress } from './page-address.js';
import { acceptedBy } from './page-request.js';
import { Received, userAgentOf } from './received.js';

export interface LiveOptions {
  /** Path below which the site lies, beginning and ending in "/". */
  basePath?: string;
  /** Paths of the pages to audit instead of those at the addresses. */
  pages?: readonly string[];
  /** Address or file of a sitemap. */
  sitemap?: string;
  /** How many links away pages may be; none are followed if left out. */
  follow?: number;
  /** Globs of paths that are not audited, and of the only ones that are. */
  skip?: readonly string[];
  keep?: readonly string[];
  /** So many pages at most; 500 if left out. */
  mostPages?: number;
  ignoreRobots?: boolean;
  /** Headers for the site's own origin, as `Name: value`. */
  headers?: readonly string[];
  /** File of cookies. */
  cookies?: string;
  /** Whether certificates that nobody vouches for are taken. */
  insecure?: boolean;
  /** Requests at once to one host; 6 if left out. */
  atOnce?: number;
  /** Between two requests to one host, ms. */
  pauseMs?: number;
  /** Hosts of inner networks that pages may ask. */
  hosts?: readonly string[];
  toolVersion: string;
  /** Once aborted no more pages are looked for. */
  signal?: AbortSignal;
  progress?: FindingProgress;
}

export const usualMostPages = 500;

/**
 * Opens a site at an address, and finds its pages.
 * @param targets absolute addresses of one origin
 * @throws {SiteError} when it does not answer, or has no page
 */
export async function openLive(targets: readonly string[], options: LiveOptions): Promise<Site> {
  const { addresses, authorization } = readTargets(targets);
  const { hosts = [], insecure = false, atOnce = 6, pauseMs = 0 } = options;
  const [first = ''] = addresses;
  const { origin } = new URL(first);
  const signIn = authorization === undefined ? {} : { authorization };
  const client = new HttpClient({
    origin,
    credentials: { headers: { ...signIn, ...parseHeaders(options.headers ?? []) } },
    insecure,
    atOnce,
    pauseMs,
    trustsHost: (url) => isNamed(hosts, url),
  });
  const folder = new BodyFolder();
  const close = async () => {
    await client.close();
    folder.remove();
  };
  try {
    if (options.cookies !== undefined) await readCookies(options.cookies, client.jar);
    const received = new Received(client, folder.path, userAgentOf(options.toolVersion));
    await answersAtAll(received, first);
    const found = await new PageFinder(received, origin, wishesOf(addresses, options)).find();
    tellOfLogin(found);
    if (found.pages.length === 0) throw noPages(first, found);
    const cookies = await cookiesOf(client.jar, first);
    return liveSite(received, {
      origin,
      found,
      hosts,
      basePath: options.basePath ?? '/',
      cookies,
      close,
    });
  } catch (cause) {
    await close();
    throw cause;
  }
}

function readTargets(targets: readonly string[]): { addresses: string[]; authorization: string | undefined } {
  let authorization: string | undefined;
  const addresses = targets.map((target) => {
    if (!isAddress(target) || !URL.canParse(target))
      throw new SiteError(
        'WRONG_ADDRESS',
        `"${target}" is no address. Give http or https addresses of one site, or one folder.`,
      );
    const url = new URL(target);
    if (url.username !== '')
      authorization = basicAuthorization(decodeURIComponent(url.username), decodeURIComponent(url.password));
    return plainAddress(url);
  });
  const origins = [...new Set(addresses.map((address) => new URL(address).origin))];
  if (origins.length > 1)
    throw new SiteError(
      'WRONG_ADDRESS',
      `One audit is of one site: ${origins.join(' and ')} are several. Audit each by itself.`,
    );
  return { addresses, authorization };
}

/** A server that is not there is told once, and not for each page. */
async function answersAtAll(received: Received, address: string): Promise<void> {
  const outcome = await received.ask(address, { accept: acceptedBy.document });
  if (!isAnswered(outcome))
    throw new SiteError('NO_ANSWER', `${address} does not answer: ${outcome.failure}.`);
  const next = redirectOf(outcome);
  if (next !== undefined && new URL(next).origin !== new URL(address).origin)
    throw new SiteError('NO_ANSWER', `${address} leads to ${next}. Audit that address.`);
}

function wishesOf(addresses: readonly string[], options: LiveOptions) {
  const [first = ''] = addresses;
  const { pages = [], basePath, follow, sitemap } = options;
  const named = pages.map((path) => plainAddress(new URL(path, first)));
  const directory = new URL('.', first).pathname;
  return {
    // A sitemap names all that is wanted: the address beside it only says of which site.
    starts: named.length > 0 ? named : sitemap !== undefined && follow === undefined ? [] : addresses,
    sitemap: named.length > 0 ? undefined : sitemap,
    follow: named.length > 0 ? undefined : follow,
    skip: options.skip ?? [],
    keep: options.keep ?? [],
    mostPages: options.mostPages ?? usualMostPages,
    ignoreRobots: options.ignoreRobots ?? false,
    within: basePath ?? directory,
    signal: options.signal,
    progress: options.progress,
  };
}

/** So many pages with one content are no chance. */
const leastAlike = 3;

function tellOfLogin({ pages, problems }: FoundPages): void {
  const [first] = pages;
  if (first && pages.length >= leastAlike && pages.every(({ hash }) => hash === first.hash))
    problems.push({
      address: first.url,
      why: `all ${pages.length} pages answer with the same content, as a login page does: open the site with --header or --cookies`,
    });
}

function noPages(first: string, { problems }: FoundPages): SiteError {
  const [problem] = problems;
  return new SiteError(
    problem ? 'NO_ANSWER' : 'NO_PAGES',
    problem
      ? `There is no page to audit at ${problem.address}: ${problem.why}.`
      : `There is no page to audit at ${first}.`,
  );
}

interface Opened {
  origin: string;
  found: FoundPages;
  hosts: readonly string[];
  basePath: string;
  cookies: PageCookie[];
  close(): Promise<void>;
}

function liveSite(received: Received, { origin, found, hosts, basePath, cookies, close }: Opened): Site {
  const isOwn = (url: string) => url.startsWith(`${origin}/`);
  const whole = (path: string) => (path.startsWith('/') ? origin + path : path);
  const shorten = (url: string) => (isOwn(url) ? url.slice(origin.length) : url);
  const files = new Map<string, Answer>();
  const names = new Map<string, string>();
  /** Two addresses that would have one name are told apart by a number. */
  const nameOf = (answer: Answer): string => {
    const known = names.get(answer.url);
    if (known !== undefined) return known;
    const wanted = isOwn(answer.url) ? fileNameOf(answer.url, isPage(answer)) : answer.url;
    let name = wanted;
    for (let count = 2; files.has(name); count++) name = `${wanted}~${count}`;
    names.set(answer.url, name);
    files.set(name, answer);
    return name;
  };
  const pages = found.pages.map((page) => ({ path: shorten(page.url), file: nameOf(page) }));
  const answerAt = (path: string) => received.contentAt(whole(path));
  const network = { ...networkOf(received, { origin, ownToo: true, otherHosts: true, hosts }), cookies };
  const mayAsk = (url: string) =>
    isAddress(url) && network.allows(url) && (isOwn(url) || received.hosts.has(new URL(url).host));
  return {
    kind: 'live',
    name: new URL(origin).host,
    basePath,
    origin,
    pages,
    redirected: found.redirected.map(({ from, to }) => ({ page: shorten(from), to: shorten(to) })),
    problems: found.problems.map(({ address, why }) => ({ file: shorten(address), why })),
    get names() {
      return received.addresses.filter((each) => isOwn(each) && answerAt(each)).map(shorten);
    },
    ask: (addresses) => received.askForImages([...addresses].map(whole), mayAsk),
    fileAt: (path) => {
      const answer = answerAt(path);
      return answer && nameOf(answer);
    },
    whyUnanswered: (path) => received.whyUnanswered(whole(path)),
    typeOf: (path) => {
      const answer = answerAt(path);
      return (answer && headerOf(answer, 'content-type')) ?? typeOfFile(path);
    },
    read: async (file) => {
      const answer = files.get(file);
      if (!answer) throw new Error(`${file} was not received`);
      return received.bodyOf(answer);
    },
    hashOf: (file) => Promise.resolve(files.get(file)?.hash),
    answerTo: (path) => Promise.resolve(received.serverAnswer(whole(path))),
    differsFor: (path, accept) => received.differsFor(whole(path), accept),
    answers: liveAnswers(received, whole),
    root: origin,
    network,
    close,
  };
}

/** Addresses come with what was accepted, as a look notes them. */
function liveAnswers(received: Received, whole: (path: string) => string): Answers {
  const to = async (noted: string) => {
    const [path = '', accept = ''] = JSON.parse(noted) as string[];
    const outcome = await received.ask(whole(path), accept === '' ? {} : { accept });
    if (!isAnswered(outcome)) return outcome.failure;
    const { status, hash, wireBytes } = outcome;
    const told = ['content-type', 'location', 'link', 'content-security-policy', 'refresh'];
    return JSON.stringify([status, hash, wireBytes, ...told.map((name) => headerOf(outcome, name) ?? '')]);
  };
  return { to, given: to };
}
