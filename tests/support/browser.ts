/** Debian's Chromium, without its sandbox and its calls home, at the size the product is made for. */
export const BROWSER = {
  viewport: { width: 1280, height: 800 },
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
