/**
 * Debian's Chromium, without its sandbox and its calls home, at the size the product is made for. Nothing fades in or
 * slides, which would keep a processor busy that draws everything.
 */
export const BROWSER = {
  viewport: { width: 1280, height: 800 },
  contextOptions: { reducedMotion: 'reduce' as const },
  launchOptions: {
    executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
    args: [
      '--no-sandbox',
      '--disable-dev-shm-usage',
      '--disable-gpu',
      '--disable-background-networking',
      '--disable-component-update',
      '--disable-sync',
    ],
  },
};
