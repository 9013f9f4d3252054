import { access, constants } from 'node:fs/promises';
import { delimiter, join } from 'node:path';
import { BrowserError } from './errors.js';
import { unpackBrowser } from './packaged.js';

export interface FoundBrowser {
  executable: string;
  environment: Record<string, string>;
  /** Names this very browser where that is known without starting it. */
  identity?: string;
}

/** Where the environment may name a browser. */
export const browserVariable = 'YUKKURI_BROWSER';

const names = [
  'chromium',
  'chromium-browser',
  'google-chrome',
  'google-chrome-stable',
  'microsoft-edge',
  'msedge',
];

const fixedPlaces: Partial<Record<NodeJS.Platform, string[]>> = {
  darwin: [
    '/Applications/Google Chrome.app/Contents/MacOS/Google Chrome',
    '/Applications/Chromium.app/Contents/MacOS/Chromium',
    '/Applications/Microsoft Edge.app/Contents/MacOS/Microsoft Edge',
  ],
  win32: [
    'C:\\Program Files\\Google\\Chrome\\Application\\chrome.exe',
    'C:\\Program Files (x86)\\Google\\Chrome\\Application\\chrome.exe',
    'C:\\Program Files (x86)\\Microsoft\\Edge\\Application\\msedge.exe',
  ],
};

/**
 * Finds a browser: the path given, the environment, the packaged one, an installed one.
 * @throws {BrowserError} when a path that was given does not lead to a program, or nothing is found
 */
export async function findBrowser(given?: string): Promise<FoundBrowser> {
  const named = given ?? process.env[browserVariable];
  if (named) {
    if (await isProgram(named)) return { executable: named, environment: {} };
    const where = given ? '--browser' : browserVariable;
    throw new BrowserError(
      'NO_BROWSER',
      `${where} names "${named}", which is not a program that can be started. Give the full path of Chromium, Chrome or Edge.`,
    );
  }
  const packaged = await unpackBrowser();
  if (packaged) return packaged;
  const installed = await findInstalled();
  if (installed) return { executable: installed, environment: {} };
  throw new BrowserError(
    'NO_BROWSER',
    'There is no browser here: the optional package @sparticuz/chromium is not installed (it serves Linux x64), and no Chromium, ' +
      `Chrome or Edge was found. Install one, or name it with --browser PATH or ${browserVariable}.`,
  );
}

async function findInstalled(): Promise<string | undefined> {
  const folders = (process.env['PATH'] ?? '').split(delimiter).filter(Boolean);
  const places = [
    ...names.flatMap((name) => folders.map((folder) => join(folder, name))),
    ...(fixedPlaces[process.platform] ?? []),
  ];
  for (const place of places) if (await isProgram(place)) return place;
  return undefined;
}

async function isProgram(path: string): Promise<boolean> {
  return access(path, constants.X_OK).then(
    () => true,
    () => false,
  );
}
