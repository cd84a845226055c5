import { chromium, type Browser } from '@playwright/test';

/** Debian's Chromium, without anything that reaches out. */
export function launchBrowser(): Promise<Browser> {
  return chromium.launch({
    executablePath: '/usr/bin/chromium-headless-shell',
    args: [
      '--no-sandbox',
      '--disable-quic',
      '--no-first-run',
      '--disable-background-networking',
      '--disable-sync',
    ],
  });
}
