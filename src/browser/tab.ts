import type { CDPSession, Connection, Protocol } from 'puppeteer-core';
import { genericFonts } from './generic-fonts.js';

/** A cookie that a tab has from the beginning. */
export type TabCookie = Protocol.Network.CookieParam;

/** What a tab is opened for. */
export interface TabWishes {
  /** Whether it is for a screen that is touched. */
  touch: boolean;
  /** Whether pages may run scripts. */
  scripts: boolean;
  cookies: readonly TabCookie[];
  /** A proxy for all that is asked for in it, and what goes by without it. */
  proxy?: { server: string; bypass: string } | undefined;
}

/** Visitors of every kind have settings; all pages are shown to one with these, whatever those of the machine are. */
const media = [
  { name: 'prefers-color-scheme', value: 'light' },
  { name: 'prefers-reduced-motion', value: 'no-preference' },
  { name: 'forced-colors', value: 'none' },
  { name: 'prefers-contrast', value: 'no-preference' },
];

/** Workers that answer in the place of the network stay after the visit that made them; the page is told so where a developer looks. */
const noServiceWorker = `if (navigator.serviceWorker) navigator.serviceWorker.register = async () => {
  console.warn('Service workers are not registered while the page is measured');
};`;

/** The one tab of a browser context of its own, its cache empty: what else is opened from it is closed. */
export class Tab {
  private constructor(
    /** Speaks to the tab. */
    readonly session: CDPSession,
    readonly close: () => Promise<void>,
  ) {}

  static async open(connection: Connection, wishes: TabWishes): Promise<Tab> {
    const { browserContextId } = await connection.send('Target.createBrowserContext', {
      disposeOnDetach: true,
      ...(wishes.proxy ? { proxyServer: wishes.proxy.server, proxyBypassList: wishes.proxy.bypass } : {}),
    });
    let own: string | undefined;
    const onTarget = ({ targetInfo }: { targetInfo: { targetId: string; browserContextId?: string } }) => {
      const { targetId, browserContextId: itsContext } = targetInfo;
      if (own === undefined || targetId === own || itsContext !== browserContextId) return;
      connection.send('Target.closeTarget', { targetId }).catch(() => undefined);
    };
    connection.on('Target.targetCreated', onTarget);
    const close = async () => {
      connection.off('Target.targetCreated', onTarget);
      await connection.send('Target.disposeBrowserContext', { browserContextId });
    };
    try {
      await Promise.all([
        connection.send('Browser.setDownloadBehavior', { behavior: 'deny', browserContextId }),
        ...(wishes.cookies.length > 0
          ? [connection.send('Storage.setCookies', { cookies: [...wishes.cookies], browserContextId })]
          : []),
      ]);
      const { targetId } = await connection.send('Target.createTarget', {
        url: 'about:blank',
        browserContextId,
      });
      own = targetId;
      const { sessionId } = await connection.send('Target.attachToTarget', { targetId, flatten: true });
      const session = connection.session(sessionId);
      if (!session) throw new Error('the browser gave a tab that cannot be spoken to');
      await prepare(session, wishes);
      return new Tab(session, close);
    } catch (cause) {
      await close().catch(() => undefined);
      throw cause;
    }
  }
}

async function prepare(session: CDPSession, { touch, scripts }: TabWishes): Promise<void> {
  // A page that asks or warns waits for an answer: none is given, but it may be left.
  session.on('Page.javascriptDialogOpening', ({ type }) => {
    session.send('Page.handleJavaScriptDialog', { accept: type === 'beforeunload' }).catch(() => undefined);
  });
  await Promise.all([
    session.send('Page.enable'),
    session.send('Page.addScriptToEvaluateOnNewDocument', { source: noServiceWorker }),
    session.send('Page.setFontFamilies', { fontFamilies: genericFonts() }),
    session.send('Emulation.setFocusEmulationEnabled', { enabled: true }),
    session.send('Emulation.setEmulatedMedia', { media: '', features: media }),
    session.send('Emulation.setLocaleOverride', { locale: 'en-US' }),
    session.send('Emulation.setUserAgentOverride', { userAgent: '', acceptLanguage: 'en-US' }),
    session.send('Emulation.setTimezoneOverride', { timezoneId: 'UTC' }),
    ...(touch ? [session.send('Emulation.setTouchEmulationEnabled', { enabled: true })] : []),
    ...(scripts ? [] : [session.send('Emulation.setScriptExecutionDisabled', { value: true })]),
  ]);
}
