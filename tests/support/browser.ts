import { existsSync } from 'node:fs';

/** Debian's Chromium without windows of its own, with which tests take some 30 % less time, or the whole of it. */
const PROGRAMS = ['/usr/bin/chromium-headless-shell', '/usr/bin/chromium'];

/** This machine by a name that browsers don't trust, as if it were reached over a network without encryption. */
export const INSECURE_HOST = 'photos.test';

/**
 * Debian's Chromium, without its sandbox and its calls home, at the size the product is made for. Nothing fades in or
 * slides, which would keep a processor busy that draws everything.
 */
export const BROWSER = {
  viewport: { width: 1280, height: 800 },
  contextOptions: { reducedMotion: 'reduce' as const },
  launchOptions: {
    executablePath: process.env.CHROMIUM ?? PROGRAMS.find((program) => existsSync(program)),
    args: [
      '--no-sandbox',
      '--disable-dev-shm-usage',
      '--disable-gpu',
      '--disable-background-networking',
      '--disable-component-update',
      '--disable-sync',
      `--host-resolver-rules=MAP ${INSECURE_HOST} 127.0.0.1`,
    ],
  },
};
