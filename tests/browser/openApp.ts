import type { Browser, Page } from 'playwright-core';
import { launch, startApp, type App } from './support';

/** The application for all tests of a file, and a fresh browser context for each of them. */
export function openApp(options: Parameters<typeof launch>[0] = {}): {
  readonly url: string;
  readonly joints: number;
  readonly browser: Browser;
  readonly page: Page;
} {
  let app: App;
  let browser: Browser;
  let page: Page;
  beforeAll(async () => {
    [app, browser] = await Promise.all([startApp(), launch(options)]);
  });
  afterAll(async () => {
    app.stop();
    await browser.close();
  });
  beforeEach(async () => {
    const context = await browser.newContext({
      viewport: { width: 1280, height: 800 },
      reducedMotion: 'reduce',
    });
    // As long as a slow machine takes, beside others that work.
    context.setDefaultTimeout(60_000);
    page = await context.newPage();
  });
  afterEach(() => page.context().close());
  return {
    get url() {
      return app.url;
    },
    get joints() {
      return app.joints;
    },
    get browser() {
      return browser;
    },
    get page() {
      return page;
    },
  };
}
