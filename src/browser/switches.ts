/** No window, and a mouse that points and hovers. */
const headless = [
  '--headless',
  '--hide-scrollbars',
  '--mute-audio',
  '--blink-settings=primaryHoverType=2,availableHoverTypes=2,primaryPointerType=4,availablePointerTypes=4',
  '--no-startup-window',
];

/** Nothing is fetched, installed or told on the browser's own account, and the machine's key rings are let be. */
const quiet = [
  '--disable-quic',
  '--no-first-run',
  '--no-default-browser-check',
  '--no-service-autorun',
  '--disable-background-networking',
  '--disable-breakpad',
  '--disable-component-extensions-with-background-pages',
  '--disable-component-update',
  '--disable-default-apps',
  '--disable-edgeupdater',
  '--disable-extensions',
  '--disable-infobars',
  '--disable-search-engine-choice-screen',
  '--disable-sync',
  '--disable-updater-scheduler',
  '--metrics-recording-only',
  '--password-store=basic',
  '--use-mock-keychain',
];

/** Pages run as they do in front of a visitor, several at once, and none is held up by what a window would ask. */
const unhindered = [
  '--allow-pre-commit-input',
  '--disable-back-forward-cache',
  '--disable-background-timer-throttling',
  '--disable-backgrounding-occluded-windows',
  '--disable-dev-shm-usage',
  '--disable-field-trial-config',
  '--disable-hang-monitor',
  '--disable-ipc-flooding-protection',
  '--disable-popup-blocking',
  '--disable-prompt-on-repost',
  '--disable-renderer-backgrounding',
  '--disable-stack-profiler',
  '--do-not-de-elevate',
  '--edge-skip-compat-layer-relaunch',
];

/**
 * One process for all frames of a page, so that one protocol session sees them all; the network quality fixed, because
 * lazy images begin to load at a distance that depends on it; no frame painted before its images are decoded, so that
 * the largest paint does not depend on timing.
 */
const measured = [
  '--disable-gpu',
  '--disable-site-isolation-trials',
  '--disable-features=IsolateOrigins,site-per-process,Translate,OptimizationHints,MediaRouter',
  '--enable-features=CDPScreenshotNewSurface',
  '--disable-checker-imaging',
  '--force-color-profile=srgb',
  '--force-effective-connection-type=4G',
];

/** What a browser is started with, whatever it may reach. */
export const browserSwitches: readonly string[] = [...headless, ...quiet, ...unhindered, ...measured];
